import { drivePath, type Drive, type DriveAccount } from '@kite-trail/core/contract/drive';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { z } from 'zod';
import { useKeptJson } from '../device/kept-setting';
import { driveApi, sendToDrive } from '../server/drives';

/** How a file that was put on a drive stands. */
export interface Sending {
  /** From 0 to 1. */
  done: number;
  /** Where it lies now, or why it does not, in words; empty while it is on its way. */
  told: string;
  isProblem: boolean;
}

const place = z.object({ drive: z.string(), userName: z.string(), path: drivePath });

/** The school's shared drives, and what is on its way there, whatever screen is shown. */
export const useDrives = defineStore('drives', () => {
  /** `null` until they are known. */
  const all = shallowRef<Drive[] | null>(null);
  const areThere = computed(() => (all.value?.length ?? 0) > 0);
  /** What is looked for a place for: a file, or `null` where somebody only looks what lies there. */
  const asked = shallowRef<{ of: string; file: File | null } | null>(null);
  const sendings = ref(new Map<string, Sending>());
  const areSent = computed(() => [...sendings.value.values()].some(({ told }) => told === ''));
  const aborts = new Map<string, AbortController>();
  /** Where something was put last on this device, and by whom. */
  const lastPlace = useKeptJson('kite-trail-drive-place', place.nullable(), null);
  let loading: Promise<Drive[] | null> | null = null;

  /** Where the school cannot be reached, nothing is offered, and it is asked again the next time. */
  async function load(): Promise<void> {
    if (all.value) return;
    const asked = (loading ??= driveApi.drives().catch(() => null));
    const found = await asked;
    // Whoever has signed in meanwhile asks for themselves.
    if (loading === asked) [all.value, loading] = [found, null];
  }

  /** @throws Refused, Unreachable */
  const open = async (id: string, account: DriveAccount) => void (all.value = await driveApi.open(id, account));
  const forget = async (id: string) => void (all.value = await driveApi.forget(id));

  /** Puts a file on a drive, where nothing is written over. @param of by what whoever asked finds it */
  async function send(of: string, file: File, to: Drive, path: readonly string[]): Promise<void> {
    drop(of);
    const abort = new AbortController();
    aborts.set(of, abort);
    sendings.value.set(of, { done: 0, told: '', isProblem: false });
    // What is told is told of the sending that is in the map, which shows it.
    const sending = sendings.value.get(of)!;
    lastPlace.value = { drive: to.id, userName: to.userName!, path: [...path] };
    try {
      const { signal } = abort;
      const name = await sendToDrive(to.id, path, file, { signal, onDone: (done) => (sending.done = done) });
      sending.told = `It is on ${[to.name, ...path].join(' › ')}, as ${name}.`;
    } catch (error) {
      if (abort.signal.aborted) return;
      sending.told = (error as Error).message;
      sending.isProblem = true;
    } finally {
      if (aborts.get(of) === abort) aborts.delete(of);
    }
  }

  /** Gives up what is on its way, and forgets what was told of it. */
  function drop(of: string): void {
    aborts.get(of)?.abort(new DOMException('It was given up.', 'AbortError'));
    sendings.value.delete(of);
  }

  /** Whoever signs in next sees nothing of these. */
  function letGo(): void {
    for (const of of [...sendings.value.keys()]) drop(of);
    [all.value, asked.value, loading] = [null, null, null];
  }

  /** Where a teacher has put something last, on a drive; its root where they have not. */
  const lastPath = ({ id, userName }: Drive): string[] =>
    lastPlace.value?.drive === id && lastPlace.value.userName === userName ? lastPlace.value.path : [];

  return { all, areThere, asked, sendings, areSent, lastPlace, lastPath, load, open, forget, send, drop, letGo };
});
