import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';

/** The steps in which a lesson is made, from the first to the last. Each has an address (`app/lesson-routes`). */
export const STEPS = ['prepare', 'record', 'trim', 'share'] as const;
export type Step = (typeof STEPS)[number];

/** The step that is open, and the panel that lies open in it: both are in the address. */
export function useSteps() {
  const route = useRoute();
  const router = useRouter();
  const now = computed(() => STEPS.find((one) => one === route.name) ?? null);
  const panel = computed({
    get: () => (typeof route.query.panel === 'string' ? route.query.panel : null),
    set: (name: string | null) => void router.push({ query: name === null ? {} : { panel: name } }),
  });
  const go = (step: Step) => router.push({ name: step, params: route.params });

  return { now, panel, go };
}
