<script setup lang="ts">
import type { LessonId } from '@kite-trail/core/lesson/ids';
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watchEffect } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../../app/session';
import { useAudience } from '../../board/audience';
import { usePens } from '../../board/pens/pens';
import { useBringIn } from '../../bring-in/bring-in';
import { useSheetPictures } from '../../bring-in/sheet-pictures';
import { collectFiles } from '../../bring-in/waiting-files';
import { preloadRecorder } from '../../capture/take-recorder';
import { idle } from '../../device/idle';
import { Refused } from '../../server/call';
import { useChanges } from '../changes';
import { useDesk } from '../desk';
import { TEACHERS_DRESS, useDress, type Dress } from './dress';
import { useEditing } from '../edition/editing';
import LessonFrame from './LessonFrame.vue';
import { useLesson } from '../lesson';
import { provideLesson } from '../lesson-scope';
import { useTurning } from '../../pages/turning';
import { useListening } from '../../trail/listening';
import { useSteps } from './steps';

/** Opens a lesson, for as long as its screen is there. */
const { lessonId, dress = TEACHERS_DRESS } = defineProps<{ lessonId: LessonId; dress?: Dress }>();

/** What is not sent by then waits on this device for the next visit. */
const LEAVE_AFTER_MS = 3000;

const scope = provideLesson();
const parts = scope.within(() => ({
  lesson: useLesson(),
  desk: useDesk(),
  changes: useChanges(),
  editing: useEditing(),
  bringIn: useBringIn(),
  sheetPictures: useSheetPictures(),
  audience: useAudience(),
  steps: useSteps(),
  listening: useListening(),
  turning: useTurning(),
  dressed: useDress(),
}));
const { lesson, desk, editing, steps } = parts;
watchEffect(() => (parts.dressed.now = dress));
const pens = usePens();
const session = useSession();
const router = useRouter();
const route = useRoute();
const isOpen = ref(false);
const problem = ref('');
const waitsFor = computed(() => session.waitsFor ?? lesson.waitsFor);
let isLeft = false;

onMounted(async () => {
  try {
    await session.arrives();
    await Promise.all([lesson.open(lessonId), pens.load()]);
    // Whoever has left meanwhile is not called back.
    if (isLeft) return;
    if (!steps.now.value) {
      const step = lesson.lengthSamples > 0 ? dress.opensIn : 'prepare';
      await router.replace({ name: steps.routeOf(step), params: route.params });
    }
    isOpen.value = true;
    await nextTick();
    goWhereAsked();
    void idle().then(preloadRecorder);
    await parts.bringIn.bring(collectFiles());
    if (desk.scene!.pages.some(({ page }) => page.sheet)) await parts.sheetPictures.drawMissing();
  } catch (error) {
    if (isLeft) return;
    // Whose sign-in ran out on the way is sent to the door, as at the beginning.
    if (error instanceof Refused && error.status === 401) {
      session.end();
      return void router.replace({ name: 'sign-in' });
    }
    problem.value = (error as Error).message;
  }
});

/** An address may name a moment, or a page by its number: there something was found. */
function goWhereAsked() {
  const { at, page } = route.query;
  if (at !== undefined) parts.listening.seek(Math.min(lesson.lengthSamples, Math.max(0, Number(at) || 0)));
  if (page !== undefined) parts.turning.turnToPlace((Number(page) || 1) - 1);
}

onBeforeUnmount(() => {
  isLeft = true;
  parts.audience.close();
  const sent = Promise.race([editing.sent(), new Promise((resolve) => setTimeout(resolve, LEAVE_AFTER_MS))]);
  void Promise.all([lesson.save(), sent]).finally(() => scope.end());
});
</script>

<template>
  <lesson-frame v-if="isOpen" />
  <main v-else class="wait">
    <p :role="problem ? 'alert' : 'status'">{{ problem || (waitsFor ?? 'Opening…') }}</p>
    <router-link v-if="problem || waitsFor" :to="{ name: 'home' }">Back</router-link>
  </main>
</template>

<style scoped>
.wait {
  padding: 20vh 1rem;
  text-align: center;
}

.wait a {
  color: var(--tail);
}
</style>
