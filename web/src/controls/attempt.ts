import { ref, type Ref } from 'vue';

/** Tries things one after the other, and keeps what was wrong with the last one, to be told beside where it was asked for. */
export function useAttempt(): { problem: Ref<string>; attempt: (what: () => Promise<unknown>) => Promise<boolean> } {
  const problem = ref('');

  /** @returns whether it succeeded */
  async function attempt(what: () => Promise<unknown>): Promise<boolean> {
    problem.value = '';
    try {
      await what();
      return true;
    } catch (error) {
      problem.value = (error as Error).message;
      return false;
    }
  }

  return { problem, attempt };
}
