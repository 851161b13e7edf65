<script setup lang="ts">
import { encodePayload } from '@kite-trail/core/formats/payload';
import { IconCopy, IconPhoto } from '@tabler/icons-vue';
import { wrap } from 'comlink';
import { NButton, NCheckbox } from 'naive-ui';
import { computed, ref } from 'vue';
import ProblemText from '../../controls/ProblemText.vue';
import { useAttempt } from '../../controls/attempt';
import SelectField from '../../controls/SelectField.vue';
import { fileNameOf } from '../../device/file-name';
import { useKeptSetting } from '../../device/kept-setting';
import { saveFile } from '../../device/save-file';
import { useDesk } from '../../lesson/desk';
import { useLesson } from '../../lesson/lesson';
import { useListening } from '../../trail/listening';
import type { PagePictureWorker, PictureKind, PictureOptions } from '../../workers/page-picture.worker';
import PictureWorker from '../../workers/page-picture.worker?worker';

/** Pages as pictures: the one that is shown, as it is at that moment, or all of them as they end. */
const lesson = useLesson();
const desk = useDesk();
const listening = useListening();
const { problem, attempt } = useAttempt();
const isBusy = ref(false);

const KINDS: { value: PictureKind; label: string }[] = [
  { value: 'png', label: 'PNG: for any program' },
  { value: 'webp', label: 'WebP: smaller' },
  { value: 'svg', label: 'SVG: sharp at any size' },
];
const WIDTHS = ['1280', '1920', '3840'].map((value) => ({ value, label: `${value} pixels wide` }));
const kind = useKeptSetting<PictureKind>('kite-trail-picture', 'png');
const width = useKeptSetting<string>('kite-trail-picture-width', '1920');
const isTransparent = ref(false);
const options = computed<PictureOptions>(() => ({
  kind: kind.value,
  widthPx: Number(width.value) || 1920,
  isTransparent: isTransparent.value,
}));

async function made(which: 'shown' | 'all', as: PictureOptions): Promise<Blob> {
  const { document, timeline, lengthSamples } = lesson;
  const isRecorded = which === 'shown' && lengthSamples > 0;
  const scene = desk.scene!;
  const payload = encodePayload(
    isRecorded
      ? { base: timeline!.base, trail: timeline!.trail }
      : {
          base: { ...scene, look: null },
          trail: { lengthSamples: 0, marks: [{ kind: 'turn', atSamples: 0, page: scene.shown }] },
        },
  );
  const atSamples = which === 'all' ? null : isRecorded ? Math.round(listening.samples) : 0;
  const worker = new PictureWorker();
  try {
    const task = { ...as, lesson: document!.id, title: document!.title, payload, atSamples };
    return await wrap<PagePictureWorker>(worker).make(task);
  } finally {
    worker.terminate();
  }
}

async function busy(what: () => Promise<void>) {
  isBusy.value = true;
  await attempt(what);
  isBusy.value = false;
}

const savePage = () =>
  busy(async () => {
    const file = await made('shown', options.value);
    saveFile(fileNameOf(lesson.document!.title, `.${kind.value}`), file);
  });
const saveAll = () =>
  busy(async () => saveFile(fileNameOf(lesson.document!.title, ', pages.zip'), await made('all', options.value)));
/** Safari takes what is promised at the touch, and nothing later. */
const copy = () =>
  busy(async () => {
    const png = made('shown', { ...options.value, kind: 'png' });
    await navigator.clipboard.write([new ClipboardItem({ 'image/png': png })]);
  });
</script>

<template>
  <div class="way">
    <h2><icon-photo :size="22" /> Pictures</h2>
    <select-field v-model="kind" label="Kind of picture" :options="KINDS" />
    <select-field v-if="kind !== 'svg'" v-model="width" label="Size of pictures" :options="WIDTHS" />
    <n-checkbox v-model:checked="isTransparent">The ink alone, without the paper</n-checkbox>
    <div class="two">
      <n-button :disabled="isBusy" @click="savePage">Save this page</n-button>
      <n-button :disabled="isBusy" @click="saveAll">Save all pages</n-button>
    </div>
    <n-button :disabled="isBusy" @click="copy">
      <template #icon><icon-copy /></template>Copy this page
    </n-button>
    <problem-text v-if="problem">{{ problem }}</problem-text>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.5rem;
}
</style>
