<script setup lang="ts">
import { IconPackageExport } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { onMounted, ref } from 'vue';
import ProblemText from '../../controls/ProblemText.vue';
import { useAttempt } from '../../controls/attempt';
import { saveUrl } from '../../device/save-file';
import { useEditing } from '../../lesson/edition/editing';
import { useLesson } from '../../lesson/lesson';
import { sizeText } from '../../look/size';
import { api, lessonArchiveUrl } from '../../server/api';
import { useOutbox } from '../../app/outbox';

/** The whole lesson in one file, to keep and to bring in again, here or at another school. */
const lesson = useLesson();
const editing = useEditing();
const outbox = useOutbox();
const { problem, attempt } = useAttempt();
const isPreparing = ref(false);
const bytes = ref<number | null>(null);

// What does not say how large it is can be had all the same.
onMounted(async () => (bytes.value = await api.archiveBytes(lesson.document!.id).catch(() => null)));

async function save() {
  isPreparing.value = true;
  await attempt(async () => {
    const { id } = lesson.document!;
    await Promise.all([lesson.save(), editing.arrived()]);
    await outbox.allSent([id]);
    saveUrl(lessonArchiveUrl(id));
  });
  isPreparing.value = false;
}
</script>

<template>
  <div class="way">
    <h2><icon-package-export :size="22" /> Archive</h2>
    <p class="note">
      All of the lesson in one ZIP: recordings, edits, files. Drop it on Home to have it back, here or at another
      school.
    </p>
    <n-button :loading="isPreparing" @click="save">
      Save the archive<template v-if="bytes">, {{ sizeText(bytes) }}</template>
    </n-button>
    <problem-text v-if="problem">{{ problem }}</problem-text>
  </div>
</template>

<style scoped src="../way.css"></style>
