import { createHash } from 'node:crypto';
import { cp, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { build, context, type BuildOptions, type Plugin } from 'esbuild';
import { run } from './processes';
import { exists } from './packages';
import { BUILT, COMMAND, ROOT, SERVER_DIST, WEB_DIST } from './paths';

/** Packages with threads or machine code of their own are loaded from node_modules; all else is bundled: hundreds of small files are a second of every start. */
const STAY_OUTSIDE = ['piscina', 'sharp', '@resvg/resvg-js', 'pino', 'pino-http', 'esbuild', 'pg-native'];

const forNode: BuildOptions = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: true,
  logLevel: 'warning',
  absWorkingDir: ROOT,
};

/** For packages that are CommonJS inside and ask for Node's modules by require. */
const NEEDS_REQUIRE = {
  js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);",
};

/** Builds where the sources differ from those of the last build: one that runs from it is not disturbed. */
async function unlessBuilt(
  name: string,
  places: string[],
  result: string,
  work: () => Promise<void>,
): Promise<boolean> {
  const mark = join(BUILT, `${name}-build`);
  const now = await sourcesHash([...places, 'package-lock.json', 'tools/build.ts']);
  const before = await readFile(mark, 'utf8').catch(() => '');
  if (before === now && (await exists(result))) return false;
  await work();
  await mkdir(BUILT, { recursive: true });
  await writeFile(mark, now);
  return true;
}

/** Server, its worker thread and its migrations into server/dist. */
export async function buildServer(): Promise<void> {
  await unlessBuilt('server', ['server', 'core', 'contract'], join(SERVER_DIST, 'main.mjs'), bundleServer);
}

/** How the server is bundled. @param outdir where to; inside the room, so that packages outside are found */
const serverBundle = (outdir: string): BuildOptions => ({
  ...forNode,
  entryPoints: {
    main: 'server/main.ts',
    administer: 'server/administer.ts',
    'picture.worker': 'server/workers/picture.worker.ts',
  },
  outdir,
  outExtension: { '.js': '.mjs' },
  external: STAY_OUTSIDE,
  banner: NEEDS_REQUIRE,
});

/** The thread that computes. */
const threadBundle = (outdir: string): BuildOptions => ({
  ...forNode,
  entryPoints: { 'analysis.worker': 'server/workers/analysis.worker.ts' },
  outdir,
  outExtension: { '.js': '.mjs' },
  banner: NEEDS_REQUIRE,
});

async function copyMigrations(outdir: string): Promise<void> {
  await rm(join(outdir, 'migrations'), { recursive: true, force: true });
  await cp(join(ROOT, 'server', 'migrations'), join(outdir, 'migrations'), { recursive: true });
}

async function bundleServer(): Promise<void> {
  await Promise.all([build(serverBundle(SERVER_DIST)), build(threadBundle(SERVER_DIST))]);
  await copyMigrations(SERVER_DIST);
}

/**
 * Bundles the server beside the one that `npm start` runs, and again with every change of a source.
 *
 * @param onBuilt called with the file to run, each time it is there anew
 * @returns ends the watching
 */
export async function watchServer(onBuilt: (file: string) => void): Promise<() => Promise<void>> {
  const outdir = join(SERVER_DIST, 'dev');
  const tell: Plugin = {
    name: 'tell',
    setup(builder) {
      builder.onEnd(async ({ errors }) => {
        if (errors.length > 0) return;
        await copyMigrations(outdir);
        onBuilt(join(outdir, 'main.mjs'));
      });
    },
  };
  // the thread's first: the server begins with it
  const all = [
    await context(threadBundle(outdir)),
    await context({ ...serverBundle(outdir), plugins: [tell] }),
  ];
  for (const one of all) {
    await one.rebuild();
    await one.watch();
  }
  return async () => {
    for (const one of all) await one.dispose();
  };
}

/** The command line into cli/dist, in one file, so that it starts at once. */
export async function buildCli(): Promise<void> {
  await unlessBuilt('cli', ['cli', 'rig', 'core', 'contract'], COMMAND, bundleCli);
}

async function bundleCli(): Promise<void> {
  await build({
    ...forNode,
    entryPoints: { pace: 'cli/pace.ts' },
    outdir: join(ROOT, 'cli', 'dist'),
    outExtension: { '.js': '.mjs' },
    // less to parse: a command that takes a second should not spend a tenth of it on being read
    minify: true,
    keepNames: true,
    sourcemap: false,
    banner: NEEDS_REQUIRE,
  });
}

/** Whether the web app had to be built. */
export async function buildWeb(): Promise<boolean> {
  return unlessBuilt('web', ['app', 'core', 'contract'], join(WEB_DIST, 'index.html'), bundleWeb);
}

async function bundleWeb(): Promise<void> {
  console.log('Building the web app (about two minutes the first time) …');
  await run('npx', ['expo', 'export', '-p', 'web', '--output-dir', 'dist'], {
    cwd: join(ROOT, 'app'),
    env: { CI: '1', EXPO_NO_TELEMETRY: '1', EXPO_OFFLINE: '1' },
    quiet: true,
    remedy: 'The lines above say which file of app/ does not build.',
  });
  await buildServiceWorker();
  await packFiles();
}

/** What gains by being packed: text, and fonts that are not packed yet. */
const PACKED = /\.(js|html|json|css|svg|ttf|otf)$/;
const SMALLEST_BYTES = 1024;

/** Packs the app's files once, as small as can be, so that no request waits for it. */
async function packFiles(): Promise<void> {
  for (const file of (await webFiles()).filter((name) => PACKED.test(name))) {
    const content = await readFile(file);
    if (content.length < SMALLEST_BYTES) continue;
    const [br, gz] = await Promise.all([
      promisify(brotliCompress)(content, {
        params: { [constants.BROTLI_PARAM_SIZE_HINT]: content.length },
      }),
      promisify(gzip)(content, { level: 9 }),
    ]);
    await Promise.all([writeFile(`${file}.br`, br), writeFile(`${file}.gz`, gz)]);
  }
}

async function webFiles(): Promise<string[]> {
  const all = await readdir(WEB_DIST, { recursive: true, withFileTypes: true });
  return all.filter((entry) => entry.isFile()).map((entry) => join(entry.parentPath, entry.name));
}

/** Fonts of icons that no screen shows are fetched by none: they need not be kept. */
const KEPT_ASSETS = /@fontsource/;

/** The service worker, with the list of files that it keeps. */
async function buildServiceWorker(): Promise<void> {
  const files = await webFiles();
  const kept: { url: string; revision: string | null }[] = [];
  for (const file of files) {
    const url = file.slice(WEB_DIST.length).replaceAll('\\', '/');
    // hashed names tell of a change themselves
    if (url.startsWith('/_expo/') || (url.startsWith('/assets/') && KEPT_ASSETS.test(url)))
      kept.push({ url, revision: null });
    else if (url.endsWith('.html'))
      kept.push({
        url,
        revision: createHash('sha256')
          .update(await readFile(file))
          .digest('hex')
          .slice(0, 16),
      });
  }
  await build({
    bundle: true,
    platform: 'browser',
    format: 'iife',
    target: 'es2022',
    minify: true,
    logLevel: 'warning',
    absWorkingDir: ROOT,
    entryPoints: { serviceWorker: 'app/offline/serviceWorker.ts' },
    outdir: WEB_DIST,
    define: { APP_FILES: JSON.stringify(kept), 'process.env.NODE_ENV': '"production"' },
  });
}

async function sourcesHash(places: string[]): Promise<string> {
  const hash = createHash('sha256');
  for (const place of places) await addToHash(hash, join(ROOT, place));
  return hash.digest('hex');
}

const NOT_SOURCE = new Set(['node_modules', 'dist', '.expo', 'expo-env.d.ts', 'testing']);

async function addToHash(hash: ReturnType<typeof createHash>, path: string): Promise<void> {
  const children = await readdir(path, { withFileTypes: true }).catch(() => null);
  if (!children) {
    hash.update(path.slice(ROOT.length)).update(await readFile(path));
    return;
  }
  for (const child of children.sort((a, b) => (a.name < b.name ? -1 : 1))) {
    if (!NOT_SOURCE.has(child.name) && !/\.test\.tsx?$/.test(child.name))
      await addToHash(hash, join(path, child.name));
  }
}
