import type { ExportReport, ExportTask } from '../workers/export.worker';
import ExportWorker from '../workers/export.worker?worker';
import type { ExportSoundTask } from '../workers/export-sound.worker';
import ExportSoundWorker from '../workers/export-sound.worker?worker';
import type { LessonId } from '@kite-trail/core/lesson/ids';
import type { Mastering } from '@kite-trail/core/sound/mastering';
import type { Programme } from '@kite-trail/core/trail/programme';
import type { SoundUrls } from '../workers/take-sound-reader';

const FILE_PREFIX = 'export-';

/** A video being made by two workers, while the page goes on. */
export class ProgrammeVideo {
  onProgress: (done: number) => void = () => {};
  readonly file: Promise<File>;
  private readonly pictures = new ExportWorker();
  private readonly sound: Worker | null;
  private readonly name = `${FILE_PREFIX}${Date.now()}.mp4`;
  private fail: (error: Error) => void = () => {};

  /** @param urls where the takes' sounds are; empty where nobody speaks */
  constructor(
    lesson: LessonId,
    payload: Uint8Array<ArrayBuffer>,
    { programme, urls, mastering }: { programme: Programme; urls: SoundUrls; mastering: Mastering },
  ) {
    const channel = new MessageChannel();
    this.sound = urls.size > 0 ? new ExportSoundWorker() : null;
    this.file = this.made().finally(() => this.release());
    const soundTask: ExportSoundTask = { programme, urls, mastering, port: channel.port1 };
    this.sound?.postMessage(soundTask, [channel.port1]);
    const task: ExportTask = { payload, fileName: this.name, lesson, sound: this.sound ? channel.port2 : null };
    void clearFolder(this.name).then(() => this.pictures.postMessage(task, this.sound ? [channel.port2] : []));
  }

  cancel(): void {
    this.fail(new DOMException('The export was cancelled.', 'AbortError'));
  }

  private async made(): Promise<File> {
    await new Promise<void>((resolve, reject) => {
      this.fail = reject;
      const broken = (event: ErrorEvent) => reject(new Error(event.message));
      this.pictures.onerror = broken;
      if (this.sound) this.sound.onerror = broken;
      this.pictures.onmessage = ({ data }: MessageEvent<ExportReport>) => {
        if (data.kind === 'progress') this.onProgress(data.done);
        else if (data.kind === 'finished') resolve();
        else reject(new Error(data.message));
      };
    });
    const folder = await navigator.storage.getDirectory();
    return (await folder.getFileHandle(this.name)).getFile();
  }

  private release(): void {
    this.pictures.terminate();
    this.sound?.terminate();
  }
}

/** Removes what earlier exports left in the private folder; one still open elsewhere stays. */
async function clearFolder(except: string): Promise<void> {
  const folder = await navigator.storage.getDirectory();
  for await (const name of folder.keys()) {
    if (name.startsWith(FILE_PREFIX) && name !== except) await folder.removeEntry(name).catch(() => {});
  }
}

/** Whether this browser can make videos at all. */
export const canMakeVideos = (): boolean => typeof VideoEncoder !== 'undefined' && 'getDirectory' in navigator.storage;
