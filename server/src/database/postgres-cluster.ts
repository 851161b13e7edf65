import { execFileSync } from 'node:child_process';
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
  export interface ProvidedContext {
    /** Where the test's PostgreSQL listens; not there where tests run on SQLite. */
    postgresFolder?: string;
  }
}

/** Debian keeps each version's programs in a folder of its own. */
const DEBIAN_FOLDER = '/usr/lib/postgresql';

/** For tests: a PostgreSQL of their own in a temporary folder, as a user of its own, heard by a socket alone. */
export default function startCluster(project: TestProject): () => void {
  const programs = existsSync(DEBIAN_FOLDER)
    ? join(
        DEBIAN_FOLDER,
        readdirSync(DEBIAN_FOLDER)
          .sort((a, b) => Number(a) - Number(b))
          .at(-1)!,
        'bin',
      )
    : '';
  const folder = mkdtempSync(join(tmpdir(), 'kite-trail-postgres-'));
  const isRoot = process.getuid?.() === 0;
  // PostgreSQL runs as anybody but root.
  const run = (program: string, ...args: string[]) => {
    const command = [join(programs, program), ...args];
    const [first, ...rest] = isRoot ? ['runuser', '-u', 'postgres', '--', ...command] : command;
    execFileSync(first, rest, { stdio: 'pipe', cwd: folder });
  };
  if (isRoot) {
    const idOf = (kind: '-u' | '-g') => Number(execFileSync('id', [kind, 'postgres']).toString());
    chownSync(folder, idOf('-u'), idOf('-g'));
  }
  const data = join(folder, 'data');
  run('initdb', '--pgdata', data, '--auth', 'trust', '--username', 'postgres', '--encoding', 'UTF8', '--no-sync');
  const options = `-c listen_addresses='' -c unix_socket_directories='${folder}' -c fsync=off -c max_connections=200`;
  run('pg_ctl', '--pgdata', data, '--log', join(folder, 'log'), '--wait', '--options', options, 'start');
  project.provide('postgresFolder', folder);
  return () => {
    run('pg_ctl', '--pgdata', data, '--mode', 'immediate', 'stop');
    rmSync(folder, { recursive: true, force: true });
  };
}
