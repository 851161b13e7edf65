import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdtempSync, rmSync, watch } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const RATE_HZ = 48_000;
const BYTES_A_SAMPLE = 2;
const SPEAKER = 'speaker';

/** A loudspeaker in an empty room: browsers play to it in time, and what they play can be recorded. */
export class SoundDevice {
  private constructor(
    private readonly server: ChildProcess,
    private readonly folder: string,
    private readonly address: string,
  ) {}

  static async open(): Promise<SoundDevice> {
    const folder = mkdtempSync(join(tmpdir(), 'kite-trail-sound-'));
    const socket = join(folder, 'socket');
    const opened = new Promise<void>((resolve) => {
      const watching = watch(folder, () => {
        if (!existsSync(socket)) return;
        watching.close();
        resolve();
      });
    });
    const modules = [
      `module-null-sink sink_name=${SPEAKER} rate=${RATE_HZ}`,
      `module-native-protocol-unix socket=${socket} auth-anonymous=1`,
    ];
    const how = ['-n', '--daemonize=no', '--exit-idle-time=-1', ...modules.flatMap((one) => ['-L', one])];
    const env = { ...process.env, HOME: folder, XDG_RUNTIME_DIR: folder };
    const server = spawn('pulseaudio', how, { env, stdio: 'ignore' });
    const failed = once(server, 'exit').then(() => Promise.reject(new Error('PulseAudio did not start.')));
    failed.catch(() => {});
    await Promise.race([opened, failed]);
    return new SoundDevice(server, folder, `unix:${socket}`);
  }

  /** By which programs find it. */
  get environment(): Record<string, string> {
    return { PULSE_SERVER: this.address };
  }

  /** Listens for so long. @returns how loud it is: the root mean square, from 0 to 1 */
  async hear(seconds: number): Promise<number> {
    const wanted = seconds * RATE_HZ * BYTES_A_SAMPLE;
    const how = [
      `--server=${this.address}`,
      `--device=${SPEAKER}.monitor`,
      '--format=s16le',
      '--channels=1',
      '--latency-msec=50',
    ];
    const recorder = spawn('parec', [...how, `--rate=${RATE_HZ}`], { stdio: ['ignore', 'pipe', 'ignore'] });
    const heard: Buffer[] = [];
    let length = 0;
    for await (const bytes of recorder.stdout!) {
      heard.push(bytes as Buffer);
      length += (bytes as Buffer).length;
      if (length >= wanted) break;
    }
    recorder.kill();
    const bytes = Buffer.concat(heard);
    const samples = Array.from(
      { length: Math.floor(length / BYTES_A_SAMPLE) },
      (_, i) => bytes.readInt16LE(2 * i) / 32768,
    );
    return Math.sqrt(samples.reduce((sum, one) => sum + one * one, 0) / samples.length);
  }

  async close(): Promise<void> {
    this.server.kill();
    await once(this.server, 'exit');
    rmSync(this.folder, { recursive: true, force: true });
  }
}
