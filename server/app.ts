import { existsSync } from 'node:fs';
import { join } from 'node:path';
import compression from 'compression';
import express, { type Express } from 'express';
import packed from 'express-static-gzip';
import type pg from 'pg';
import { answerProblem, apiRouter } from './routes/api';
import { door, type DoorOptions } from './routes/door';
import { entry } from './routes/entry';
import { runningRoutes } from './routes/running';
import { Streams } from './routes/streams';
import { sweepUploads } from './routes/upload';
import { shownPages } from './routes/shown';
import { Access } from './services/access';
import type { AnalysisPool } from './services/analysisPool';
import { Announcements } from './services/announcements';
import { BackupKeeper, type BackupPlace } from './services/backups';
import { Bench } from './services/bench';
import { Comparisons } from './services/comparisons';
import { CoolDowns } from './services/coolDowns';
import { LiveRuns } from './services/liveRuns';
import type { PicturePool } from './services/picturePool';
import { report, requestLog } from './services/logs';
import { Metrics } from './services/metrics';
import { Progresses } from './services/progresses';
import { Recomputing } from './services/recomputing';
import { Reviews } from './services/reviews';
import { Runs } from './services/runs';
import { StandIns } from './services/standIns';

const PACKED = { enableBrotli: true, orderPreference: ['br', 'gz'] };

export interface AppOptions {
  /** The exported web app; null to serve the API alone. */
  webFolder: string | null;
  /** File of the command line, which the stand-ins run; null for none. */
  command: string | null;
  door: DoorOptions;
  /** Files of migrations that this program has. */
  migrations: string[];
  /** Where backups are kept; null for nowhere. */
  backups: BackupPlace | null;
}

export interface RunningApp {
  app: Express;
  /** Brings what an earlier server left up to date. */
  resume: () => Promise<void>;
  close: () => Promise<void>;
}

/** App and API on one port. */
export function createApp(
  pool: pg.Pool,
  analyses: AnalysisPool,
  pictures: PicturePool,
  { webFolder, command, door: doorOptions, backups: place, migrations }: AppOptions,
): RunningApp {
  const app = express();
  app.disable('x-powered-by');
  const announcements = new Announcements(pool);
  const progresses = new Progresses(announcements);
  const runs = new Runs(pool, analyses);
  const reviews = new Reviews(pool, runs, new Comparisons(pool, runs), pictures, progresses);
  const recomputing = new Recomputing(
    pool,
    () => runs.stale(),
    (run) => runs.bringUp([run]),
  );
  runs.onStale = () => recomputing.lookSoon();
  const access = new Access(pool);
  if (doorOptions.proxies !== null) app.set('trust proxy', doorOptions.proxies);
  const streams = new Streams();
  const metrics = new Metrics(pool, () => streams.size);
  app.use(requestLog());
  app.use(...door(doorOptions));
  app.use(runningRoutes(pool, metrics, migrations));
  app.use(compression());
  // what others may read stands before the entry that asks who they are
  app.use(shownPages(reviews));
  app.use(entry(access, doorOptions));
  const backups = new BackupKeeper(pool, place, announcements);
  const live = new LiveRuns(pool, announcements);
  const bench = new Bench(pool, live, runs);
  announcements.onNews = (news) => {
    if (news.what === 'pack') progresses.heard(news.job, news.progress);
    else if (news.what === 'backup') backups.heard(news);
    else live.heard(news);
  };
  announcements.onGap = () =>
    void live.missed().catch((error: unknown) => report(`A run was not checked: ${String(error)}`));
  const standIns = new StandIns(live, command);
  app.use(
    '/api',
    metrics.timing(),
    apiRouter(pool, analyses, runs, reviews, {
      bench,
      live,
      standIns,
      coolDowns: new CoolDowns(pool),
      access,
      streams,
      door: doorOptions,
      backups,
      progresses,
      onStale: () => recomputing.lookSoon(),
    }),
  );
  if (webFolder && existsSync(join(webFolder, 'index.html'))) {
    // packed when the app was built; hashed names never change their content
    const hashed = { immutable: true, maxAge: '1y' };
    for (const folder of ['_expo', 'assets'])
      app.use(
        `/${folder}`,
        packed(join(webFolder, folder), { ...PACKED, index: false, serveStatic: hashed }),
      );
    app.use(packed(webFolder, PACKED));
    app.use((_request, response) => response.sendFile(join(webFolder, 'index.html')));
  }
  // what the door refuses, and addresses that are none
  app.use(answerProblem);
  return {
    app,
    resume: async () => {
      await sweepUploads();
      await announcements.listen();
      await bench.resume();
      backups.watch();
      await recomputing.begin();
    },
    close: async () => {
      streams.close();
      runs.close();
      backups.close();
      bench.close();
      standIns.close();
      await Promise.all([announcements.close(), recomputing.close()]);
    },
  };
}
