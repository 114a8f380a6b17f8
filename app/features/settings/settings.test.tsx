import type { Backups, Role, SessionSummary } from '@pace-check/contract';
import { focusManager } from '@tanstack/react-query';
import { act, fireEvent, screen, within } from '@testing-library/react';
import { show, until } from '../../testing/render';
import { standInServer, type Heard } from '../../testing/server';
import { RoleProvider } from '../../ui/Role';
import { BackupsSection } from './BackupsSection';
import { Everything } from './Everything';
import { FiguresState } from './FiguresState';
import { SettingsScreen } from './SettingsScreen';
import { WhoMayIn } from './WhoMayIn';

jest.mock('expo-router', () => ({ Link: ({ children }: { children: unknown }) => children }));

const session = (id: string, name: string, role: Role, own = false): SessionSummary => ({
  id,
  name,
  role,
  own,
  madeAt: '2026-05-09T08:00:00.000Z',
  usedAt: '2026-05-09T09:30:00.000Z',
});
let closed: boolean;
let sessions: SessionSummary[];
let backups: Backups;
let figures: { methodVersion: number; runs: number; stale: number };
let heard: Heard[];
let unreadable: { table: string; id: string; reason: string }[] = [];

beforeEach(() => {
  closed = true;
  figures = { methodVersion: 8, runs: 31, stale: 0 };
  sessions = [session('a', 'the laptop', 'reviewer', true)];
  backups = { kept: true, nightly: false, files: [], going: null, failed: null };
  heard = standInServer(({ method, path, body }) => {
    if (path === '/api/me') return { body: { role: 'reviewer', name: 'the laptop', closed } };
    if (path === '/api/join-codes')
      return { status: 201, body: { code: '042317', token: 't'.repeat(43), livesS: 120 } };
    if (path.startsWith('/api/sessions') && method === 'DELETE') {
      sessions = sessions.filter(({ id }) => !path.endsWith(id));
      return { status: 204 };
    }
    if (path === '/api/sessions') return { body: { closed, addresses: ['http://192.0.2.7:4310'], sessions } };
    if (path === '/api/backups' && method === 'POST')
      backups = { ...backups, going: { share: 0.4, doing: 'packing' } };
    if (path === '/api/backups' && method === 'PUT') backups = { ...backups, nightly: body.nightly };
    if (path.startsWith('/api/backups/') && method === 'DELETE') {
      backups = { ...backups, files: [] };
      return { status: 204 };
    }
    if (path === '/api/backups') return { body: backups };
    if (path === '/api/figures') return { body: figures };
    if (path === '/api/settings') return { body: { bars: null } };
    if (path === '/api/spread') return { body: [] };
    if (path === '/api/unreadable') return { body: unreadable };
    if (path.startsWith('/api/ladders/') || path === '/api/runs/r1/restore') return { status: 204 };
    return null;
  });
});
const asked = (method: string, path: string): Heard[] =>
  heard.filter((one) => one.method === method && one.path === path);

describe('records that cannot be read', () => {
  afterEach(() => (unreadable = []));
  it('are listed with what is wrong, and one can be deleted; where there are none nothing is said', async () => {
    const { unmount } = await show(<SettingsScreen />);
    expect(screen.queryByText('Records that cannot be read')).toBeNull();
    unmount();
    unreadable = [{ table: 'ladder', id: 'l1', reason: 'device: enter a name' }];
    await show(<SettingsScreen />);
    const list = await screen.findByRole('list', { name: 'Records that cannot be read' });
    expect(list.textContent).toContain('ladder: device: enter a name');
    fireEvent.click(within(list).getByRole('button', { name: 'Delete' }));
    await until(() => asked('DELETE', '/api/ladders/l1').length === 1);
  });
});

describe('who may in', () => {
  it('shows a code for whom it is made, and says when they are in', async () => {
    await show(<WhoMayIn />);
    fireEvent.change(await screen.findByLabelText('Name of the person or device'), {
      target: { value: 'phone on the bench' },
    });
    fireEvent.click(screen.getByRole('radio', { name: 'viewer' }));
    expect(screen.getByText('Can see everything and change nothing.')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Show code' }));
    const shown = await screen.findByRole('group', { name: 'Code for phone on the bench' });
    expect(asked('POST', '/api/join-codes')[0]!.body).toEqual({ role: 'reader', name: 'phone on the bench' });
    expect(within(shown).getByLabelText('code 0 4 2 3 1 7').textContent).toBe('042 317');
    // this browser calls the machine by a name that a phone does not reach it by
    expect(within(shown).getByText('http://192.0.2.7:4310/join')).toBeTruthy();
    expect(within(shown).getByText(/^Without TLS, others/)).toBeTruthy();
    sessions = [session('b', 'phone on the bench', 'reader'), ...sessions];
    // whoever comes back to the page sees how it is now, without waiting for the next look
    await act(async () => (focusManager.setFocused(false), focusManager.setFocused(true)));
    await until(() => screen.queryByText('“phone on the bench” signed in.') !== null);
    focusManager.setFocused(undefined);
  });
  it('puts one out, and not the one that asks', async () => {
    sessions = [...sessions, session('b', 'lost phone', 'bench')];
    await show(<WhoMayIn />);
    const list = await screen.findByRole('list', { name: 'Devices with access' });
    expect(within(list).getByText('reviewer · this device')).toBeTruthy();
    expect(within(list).getAllByRole('button')).toHaveLength(1);
    fireEvent.click(within(list).getByRole('button', { name: 'Sign out lost phone' }));
    await until(() => screen.queryByText(/“lost phone” signed out/) !== null);
    expect(asked('DELETE', '/api/sessions/b')).toHaveLength(1);
    await until(() => screen.queryByText('lost phone') === null);
  });
  it('says how to open a server that its own machine alone reaches', async () => {
    closed = false;
    await show(<WhoMayIn />);
    expect(await screen.findByText(/^Pace Check can be reached from this machine only/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Show code' })).toBeNull();
  });
});

describe('the settings', () => {
  it.each<[Role, boolean]>([
    ['reviewer', true],
    ['bench', false],
    ['reader', false],
  ])('let a %s in on what is theirs', async (role, may) => {
    await show(
      <RoleProvider role={role}>
        <SettingsScreen />
      </RoleProvider>,
    );
    expect(await screen.findByText('Temperatures')).toBeTruthy();
    await until(() => screen.queryByRole('button', { name: 'Sign out' }) !== null);
    for (const heading of ['Access', 'Backups'])
      expect([heading, screen.queryByText(heading) !== null]).toEqual([heading, may]);
    expect(screen.queryByRole('button', { name: 'Save thresholds' }) !== null).toBe(may);
  });
});

describe('figures', () => {
  it('are all of this version of the method, or it says how many are', async () => {
    await show(<FiguresState />);
    expect(await screen.findByText('31 runs, all calculated with method version 8.')).toBeTruthy();
    figures = { methodVersion: 9, runs: 5000, stale: 4688 };
    await act(async () => (focusManager.setFocused(false), focusManager.setFocused(true)));
    expect(await screen.findByText('312 of 5,000 runs calculated with method version 9.')).toBeTruthy();
    focusManager.setFocused(undefined);
  });
});

describe('backups', () => {
  it('are made, and how far one is stands there', async () => {
    await show(<BackupsSection />);
    expect(await screen.findByText('None yet.')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Back up now' }));
    expect(await screen.findByText('40 %: packing')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Back up now' })).toBeNull();
    backups = {
      ...backups,
      going: null,
      files: [{ id: 'k', madeAt: '2026-05-09T09:30:00.000Z', bytes: 3_200_000, nightly: false }],
    };
    await until(() => screen.queryByRole('button', { name: /^Download the backup of 9 May 2026/ }) !== null);
    expect(screen.getByText('3.1 MB')).toBeTruthy();
  });
  it('are removed only when it is said twice', async () => {
    backups.files = [{ id: 'k', madeAt: '2026-05-09T09:30:00.000Z', bytes: 1, nightly: true }];
    await show(<BackupsSection />);
    fireEvent.click(await screen.findByRole('button', { name: /^Delete the backup/ }));
    expect(asked('DELETE', '/api/backups/k')).toEqual([]);
    fireEvent.click(screen.getByRole('button', { name: /^Delete permanently the backup/ }));
    await until(() => screen.queryByText('None yet.') !== null);
    expect(asked('DELETE', '/api/backups/k')).toHaveLength(1);
  });
  it('say why the last one was not made, and are made at night where that is wanted', async () => {
    backups.failed = 'The server’s disk is full.';
    await show(<BackupsSection />);
    expect((await screen.findByRole('alert')).textContent).toContain('The server’s disk is full.');
    fireEvent.click(screen.getByRole('checkbox'));
    await until(() => screen.getByRole('checkbox').getAttribute('aria-checked') === 'true');
    expect(asked('PUT', '/api/backups')[0]!.body).toEqual({ nightly: true });
  });
});

describe('everything', () => {
  const choose = async (): Promise<void> => {
    await show(<Everything />);
    await act(async () =>
      fireEvent.change(screen.getByLabelText('Export file of another Pace Check'), {
        target: { files: [new File(['zip'], 'everything.zip')] },
      }),
    );
  };
  class Sending {
    static answer: { status: number; body: unknown };
    static asked = '';
    status = 0;
    responseText = '';
    upload: { onprogress?: unknown; onload?: () => void } = {};
    onload?: () => void;
    open(method: string, path: string): void {
      Sending.asked = `${method} ${path}`;
    }
    setRequestHeader(): void {}
    send(): void {
      this.upload.onload?.();
      this.status = Sending.answer.status;
      this.responseText = JSON.stringify(Sending.answer.body);
      this.onload?.();
    }
  }
  const before = globalThis.XMLHttpRequest;
  beforeEach(() => (globalThis.XMLHttpRequest = Sending as never));
  afterEach(() => (globalThis.XMLHttpRequest = before));

  it('says what came in, and what was here already', async () => {
    Sending.answer = {
      status: 200,
      body: {
        kinds: [
          { what: 'devices', added: 0, there: 2, differ: 0 },
          { what: 'runs', added: 5, there: 3, differ: 1 },
        ],
        deletedHere: [{ table: 'run', id: 'r1', name: 'Aurelune on Velm 5' }],
      },
    };
    await choose();
    await screen.findByText('Added: 5 runs.');
    screen.getByText('5 records already existed; 1 of them differ from the file and were not changed.');
    expect(screen.getByText('Deleted here, and still deleted: Aurelune on Velm 5.')).toBeTruthy();
    fireEvent.click(screen.getByText('Bring them back'));
    await screen.findByText('1 brought back.');
    expect(asked('POST', '/api/runs/r1/restore')).toHaveLength(1);
    expect(Sending.asked).toMatch(/^POST \/api\/everything\?job=[0-9a-f-]{36}$/);
  });
  it('says why nothing did', async () => {
    Sending.answer = {
      status: 422,
      body: {
        code: 'newer',
        message: 'The file was written by a newer version of Pace Check.',
        remedy: 'Nothing was imported. Update this one first.',
      },
    };
    await choose();
    expect((await screen.findByRole('alert')).textContent).toContain('Update this one first.');
  });
});
