import { beforeEach, describe, expect, it, vi } from 'vitest';
import { saveIntoFolder } from './kept-folder';

/** What the browser keeps of folders; a structured clone of a handle is the handle. */
const kept = new Map<string, unknown>();
vi.mock('idb', () => ({
  openDB: async () => ({
    get: async (_: string, key: string) => kept.get(key),
    put: async (_: string, folder: unknown, key: string) => kept.set(key, folder),
    delete: async (_: string, key: string) => kept.delete(key),
  }),
}));

const failing = (name: string) => Promise.reject(new DOMException('', name));

/** A folder of a disk, with files and folders by their names; what is written breaks off with `breaks`. */
class Disk {
  readonly name = 'Lessons';
  readonly removed: string[] = [];
  asked = 0;
  breaks: string | null = null;
  constructor(readonly entries: Map<string, string | 'folder'>) {}
  readonly requestPermission = async () => 'granted';
  async getFileHandle(name: string, { create = false } = {}): Promise<unknown> {
    this.asked++;
    if (this.entries.get(name) === 'folder') return failing('TypeMismatchError');
    if (!create && !this.entries.has(name))
      return failing(this.breaks === 'NotAllowedError' ? this.breaks : 'NotFoundError');
    if (create) this.entries.set(name, '');
    const write = async (chunk: Uint8Array) => {
      if (this.breaks) return failing(this.breaks);
      this.entries.set(name, this.entries.get(name)! + new TextDecoder().decode(chunk));
    };
    return { createWritable: async () => new WritableStream({ write }) };
  }
  async removeEntry(name: string): Promise<void> {
    this.entries.delete(name);
    this.removed.push(name);
  }
}

const film = new File(['film'], 'Knots.mp4');
let disk: Disk;
const chosen = vi.fn(async () => disk);

beforeEach(() => {
  disk = new Disk(new Map());
  kept.clear();
  chosen.mockClear();
  vi.stubGlobal('window', { showDirectoryPicker: chosen });
});

describe('a file that is saved into a folder', () => {
  it('writes over nothing, be it a file or a folder', async () => {
    disk = new Disk(
      new Map([
        ['Knots.mp4', 'other'],
        ['Knots 2.mp4', 'folder'],
      ]),
    );
    expect(await saveIntoFolder(film)).toEqual({ folder: 'Lessons', name: 'Knots 3.mp4' });
    expect([...disk.entries.values()]).toEqual(['other', 'folder', 'film']);
  });

  it('goes into the folder that was chosen before, without asking', async () => {
    await saveIntoFolder(film);
    await saveIntoFolder(film);
    expect([chosen.mock.calls.length, [...disk.entries.keys()]]).toEqual([1, ['Knots.mp4', 'Knots 2.mp4']]);
  });

  it('leaves nothing half written where there is no room', async () => {
    disk.breaks = 'QuotaExceededError';
    await expect(saveIntoFolder(film)).rejects.toThrow(/no room/);
    expect([disk.removed, disk.entries.size]).toEqual([['Knots.mp4'], 0]);
  });

  it('is told not to be saved where the folder may not be read any more', async () => {
    disk.breaks = 'NotAllowedError';
    await expect(saveIntoFolder(film)).rejects.toThrow(/cannot be written into/);
    expect(disk.asked).toBe(1);
  });

  it('goes nowhere where nobody chooses a folder', async () => {
    chosen.mockImplementationOnce(() => failing('AbortError'));
    expect(await saveIntoFolder(film)).toBeNull();
  });
});
