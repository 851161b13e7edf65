import { randomInt } from 'node:crypto';
import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../../..', import.meta.url));

/** A server in a process of its own that can be killed and started again. */
export class School {
  private child: ChildProcess | null = null;
  private said = '';

  private constructor(
    readonly port: number,
    /** Where its database is. */
    readonly folder: string,
    private readonly program: string,
    private readonly environment: Record<string, string>,
  ) {}

  /** Starts a school with the demo data, or an empty one. */
  static async start(kind: 'demo' | 'empty' = 'demo', environment: Record<string, string> = {}): Promise<School> {
    const program = kind === 'demo' ? 'server/dist/demo.js' : 'server/dist/main.js';
    const school = new School(
      await freePort(),
      mkdtempSync(join(tmpdir(), 'kite-trail-school-')),
      program,
      environment,
    );
    const { DEMO_DATABASE } = { ...process.env, ...environment };
    if (kind === 'demo' && DEMO_DATABASE) copyFileSync(DEMO_DATABASE, join(school.folder, 'kite-trail.sqlite'));
    await school.begin();
    return school;
  }

  /** The server's process. */
  get pid(): number {
    return this.child!.pid!;
  }

  get url(): string {
    return `http://localhost:${this.port}`;
  }

  /** By which an empty school is set up, as it was printed. */
  get setUpCode(): string {
    return /code (\S+)/.exec(this.said)![1];
  }

  async begin(): Promise<void> {
    this.said = '';
    const env = {
      ...process.env,
      PORT: String(this.port),
      DATA_DIR: this.folder,
      DEMO_UNSHARED: '1',
      ...this.environment,
    };
    const child = spawn(process.execPath, ['--enable-source-maps', this.program], { cwd: root, env, stdio: 'pipe' });
    this.child = child;
    await new Promise<void>((resolve, reject) => {
      const hear = (text: Buffer) => {
        this.said += text.toString();
        if (this.said.includes('Kite Trail is at')) resolve();
      };
      child.stdout!.on('data', hear);
      child.stderr!.on('data', hear);
      child.once('exit', () => reject(new Error(`The server did not start:\n${this.said}`)));
    });
  }

  /** Ends the process at once, as a power cut would. */
  async kill(): Promise<void> {
    const child = this.child!;
    child.kill('SIGKILL');
    await once(child, 'exit');
  }

  async close(): Promise<void> {
    await this.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** Ports that systems do not give to whoever asks for any (Linux: from 32768 on): nobody else takes one before the server does. */
const PORTS = { from: 20_000, to: 32_000 };

async function freePort(): Promise<number> {
  for (;;) {
    const port = randomInt(PORTS.from, PORTS.to);
    const probe = createServer();
    const isFree = await new Promise<boolean>((resolve) => {
      probe.once('error', () => resolve(false));
      probe.listen(port, () => resolve(true));
    });
    if (!isFree) continue;
    probe.close();
    await once(probe, 'close');
    return port;
  }
}
