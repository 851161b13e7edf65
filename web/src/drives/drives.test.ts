import type { Drive } from '@kite-trail/core/contract/drive';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { turn } from '../testing/turn';
import { useDrives } from './drives';

const { asked, sent } = vi.hoisted(() => ({
  asked: [] as ((drives: Drive[] | null) => void)[],
  sent: [] as {
    path: readonly string[];
    signal: AbortSignal;
    onDone: (done: number) => void;
    end: (name: string) => void;
    fail: (why: string) => void;
  }[],
}));
vi.mock('../server/drives', () => ({
  driveApi: {
    drives: () =>
      new Promise<Drive[]>((resolve, reject) => {
        asked.push((drives) => (drives ? resolve(drives) : reject(new Error('There is no network.'))));
      }),
  },
  sendToDrive: (
    _: string,
    path: readonly string[],
    __: File,
    { onDone, signal }: { onDone: (done: number) => void; signal: AbortSignal },
  ) =>
    new Promise<string>((end, reject) => {
      signal.addEventListener('abort', () => reject(signal.reason as Error));
      sent.push({ path, signal, onDone, end, fail: (why) => reject(new Error(why)) });
    }),
}));

const BOATS: Drive = { id: 'boats', name: 'Boat house', userName: 'marit' };
const FILE = new File(['x'], 'Tides.mp4');
let drives: ReturnType<typeof useDrives>;
beforeEach(() => {
  asked.length = sent.length = 0;
  drives = useDrives();
});

describe('the school’s drives', () => {
  it('are asked for once by all who want to know, and again where nobody has answered', async () => {
    void drives.load();
    void drives.load();
    expect(asked).toHaveLength(1);
    asked[0](null);
    await turn();
    expect(drives.areThere).toBe(false);
    void drives.load();
    asked[1]([BOATS]);
    await turn();
    await drives.load();
    expect([asked.length, drives.areThere]).toEqual([2, true]);
  });

  it('are each teacher’s own: an answer for whoever was signed in before is nobody’s', async () => {
    void drives.load();
    drives.letGo();
    asked[0]([BOATS]);
    await turn();
    expect(drives.all).toBeNull();
  });

  it('are known with the folder where their teacher put something last, and nobody else', () => {
    void drives.send('film', FILE, BOATS, ['Films']);
    expect(drives.lastPath(BOATS)).toEqual(['Films']);
    expect(drives.lastPath({ ...BOATS, userName: 'jonas' })).toEqual([]);
    expect(drives.lastPath({ ...BOATS, id: 'staff' })).toEqual([]);
  });
});

describe('a file on its way to a drive', () => {
  it('tells how far it is, and where it lies in the end', async () => {
    void drives.send('film', FILE, BOATS, ['Films', '2026']);
    sent[0].onDone(0.25);
    expect(drives.sendings.get('film')).toEqual({ done: 0.25, told: '', isProblem: false });
    expect(drives.areSent).toBe(true);
    sent[0].end('Tides 2.mp4');
    await turn();
    const told = 'It is on Boat house › Films › 2026, as Tides 2.mp4.';
    expect(drives.sendings.get('film')).toMatchObject({ told, isProblem: false });
    expect(drives.areSent).toBe(false);
  });

  it('tells why it is not there', async () => {
    void drives.send('film', FILE, BOATS, []);
    sent[0].fail('There is no room left on the drive.');
    await turn();
    expect(drives.sendings.get('film')).toMatchObject({ told: 'There is no room left on the drive.', isProblem: true });
  });

  it('is given up by whoever does not want it, sends it anew, or signs out, and nothing is told of it', async () => {
    void drives.send('film', FILE, BOATS, []);
    drives.drop('film');
    await turn();
    expect([sent[0].signal.aborted, drives.sendings.size]).toEqual([true, 0]);
    void drives.send('film', FILE, BOATS, []);
    void drives.send('film', FILE, BOATS, ['Films']);
    await turn();
    expect([sent[1].signal.aborted, sent[2].signal.aborted]).toEqual([true, false]);
    expect(drives.sendings.get('film')).toMatchObject({ told: '', isProblem: false });
    drives.letGo();
    await turn();
    expect([sent[2].signal.aborted, drives.sendings.size]).toEqual([true, 0]);
  });
});
