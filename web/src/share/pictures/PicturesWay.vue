<script setup lang="ts">
import { encodePayload } from '@kite-trail/core/formats/payload';
import { IconCopy, IconPhoto } from '@tabler/icons-vue';
import { sceneOf, shownPage, type PageState } from '@kite-trail/core/lesson/scene';
import { stepPages } from '@kite-trail/core/trail/steps';
import { still } from '@kite-trail/core/trail/timeline';
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
import MakingList from '../../making/MakingList.vue';
import { useMakings } from '../../making/makings';
import { picturesWork } from '../../making/pictures-work';
import type { PagePictureWorker, PagesToPicture, PictureKind, PictureOptions } from '../../workers/page-picture.worker';
import PictureWorker from '../../workers/page-picture.worker?worker';
import { withWorker } from '../../workers/with-worker';

/** Pages as pictures: the one that is shown, as it is at that moment, or all of them as they end. */
const lesson = useLesson();
const desk = useDesk();
const listening = useListening();
const { problem, attempt } = useAttempt();
const makings = useMakings();
/** By this name the queue knows the pictures of a lesson. */
const PICTURES = 'pictures';
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

function taskOf(states: readonly PageState[], as: PictureOptions): PagesToPicture {
  const { id, title } = lesson.document!;
  const payload = encodePayload({ base: sceneOf(states), trail: { lengthSamples: 0, marks: [] } });
  return { ...as, lesson: id, title, payload, at: null };
}

/** The page that is shown, as it is at the playhead. */
function shownAs(as: PictureOptions): Promise<Blob> {
  const moment = lesson.lengthSamples > 0 ? listening.moment : null;
  const { scene, growing } = moment ?? still(desk.scene!);
  const task = taskOf([shownPage(scene)], as);
  return withWorker<PagePictureWorker, Blob>(new PictureWorker(), (worker) => worker.one(task, growing));
}

async function busy(what: () => Promise<void>) {
  isBusy.value = true;
  await attempt(what);
  isBusy.value = false;
}

const savePage = () =>
  busy(async () => {
    const file = await shownAs(options.value);
    saveFile(fileNameOf(lesson.document!.title, `.${kind.value}`), file);
  });
const saveAll = () =>
  attempt(async () => {
    const name = fileNameOf(lesson.document!.title, ', pages.zip');
    makings.add(picturesWork(PICTURES, name, taskOf(desk.scene!.pages, options.value), 'zip'));
  });
/** How the pages came about, step by step, in one picture. */
const saveSteps = () =>
  attempt(async () => {
    const { id, title } = lesson.document!;
    const timeline = lesson.timeline!;
    const at = stepPages(timeline.trail);
    if (at.length === 0) throw new Error('Nothing was written while this lesson was recorded: there are no steps.');
    const task = { ...options.value, lesson: id, title, payload: encodePayload(timeline), at };
    makings.add(picturesWork(PICTURES, fileNameOf(title, `, steps.${kind.value}`), task, 'sheet'));
  });
/** Safari takes what is promised at the touch, and nothing later. */
const copy = () =>
  busy(async () => {
    const png = shownAs({ ...options.value, kind: 'png' });
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
      <n-button @click="saveAll">Save all pages</n-button>
    </div>
    <n-button v-if="lesson.lengthSamples > 0" @click="saveSteps">Save the steps on one sheet</n-button>
    <n-button :disabled="isBusy" @click="copy">
      <template #icon><icon-copy /></template>Copy this page
    </n-button>
    <making-list :list="makings.of(lesson.document!.id, PICTURES)" />
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
