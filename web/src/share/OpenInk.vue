<script setup lang="ts">
import { inkOfPages } from '@kite-trail/core/formats/inkml/ink-of-pages';
import { IconWriting } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { ref } from 'vue';
import ProblemText from '../controls/ProblemText.vue';
import { useAttempt } from '../controls/attempt';
import { fileNameOf } from '../device/file-name';
import { saveText } from '../device/save-file';
import { useDesk } from '../lesson/desk';
import { useLesson } from '../lesson/lesson';
import { withInkMl } from '../workers/inkml';

/** The lesson's ink for other programs: on all pages as they stand, also where nothing is recorded yet. */
const lesson = useLesson();
const desk = useDesk();
const { problem, attempt } = useAttempt();
const isWriting = ref(false);

async function save() {
  isWriting.value = true;
  await attempt(async () => {
    const { title } = lesson.document!;
    const pages = inkOfPages(desk.scene!.pages, lesson.timeline!.trail);
    saveText(
      fileNameOf(title, '.inkml'),
      'application/inkml+xml',
      await withInkMl((inkMl) => inkMl.write(title, pages)),
    );
  });
  isWriting.value = false;
}
</script>

<template>
  <div class="way">
    <h2><icon-writing :size="22" /> Ink</h2>
    <p class="note">InkML: the strokes on all pages with colour, width, force and times, for other programs.</p>
    <n-button :loading="isWriting" @click="save">Save the ink</n-button>
    <problem-text v-if="problem">{{ problem }}</problem-text>
  </div>
</template>

<style scoped>
.note {
  margin: 0;
  color: var(--ink-soft);
}
</style>
