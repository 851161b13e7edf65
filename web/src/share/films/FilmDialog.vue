<script setup lang="ts">
import {
  FILM_SIZES,
  FRAME_RATES,
  pictureSize,
  type FilmCodec,
  type FilmSettings,
} from '@kite-trail/core/film/settings';
import { pagePartAt } from '@kite-trail/core/trail/page-part';
import { NButton, NCheckbox } from 'naive-ui';
import { computed, reactive, ref, shallowRef, watch } from 'vue';
import ColorField from '../../controls/ColorField.vue';
import DialogCard from '../../controls/DialogCard.vue';
import ProblemText from '../../controls/ProblemText.vue';
import RadioField from '../../controls/RadioField.vue';
import RangeField from '../../controls/RangeField.vue';
import SelectField from '../../controls/SelectField.vue';
import { useFilms } from '../../lesson/films';
import { useLesson } from '../../lesson/lesson';
import { sizeText } from '../../look/size';
import { clockText } from '../../look/time';
import { useListening } from '../../trail/listening';
import { encoderOf } from '../../making/film/can-encode';
import { useFilmParts, type FilmExtent } from './film-parts';

/** What a video is like. What is chosen is kept on this device, and with one touch the next one is like it. */
const emit = defineEmits<{ close: [] }>();

const lesson = useLesson();
const films = useFilms();
const parts = useFilmParts();
const listening = useListening();
const settings = reactive<FilmSettings>({ ...films.settings });
const STEP_SAMPLES = 48_000;
const extent = ref('whole');
const from = ref(0);
const to = ref(lesson.lengthSamples);
const problem = ref('');
/** Kinds that nobody can make at this size. */
const missing = shallowRef<ReadonlySet<FilmCodec>>(new Set());

const KINDS: { value: FilmCodec; label: string }[] = [
  { value: 'avc', label: 'MP4: plays everywhere' },
  { value: 'av1', label: 'WebM, AV1: the smallest, plays in browsers' },
  { value: 'vp9', label: 'WebM, VP9: for browsers that know no AV1' },
];
const kinds = computed(() =>
  KINDS.map((one) => ({
    ...one,
    label: missing.value.has(one.value) ? `${one.label} (not here)` : one.label,
    disabled: missing.value.has(one.value),
  })),
);
const SHAPES = [
  { value: 'wide', label: 'Wide' },
  { value: 'upright', label: 'Upright, for phones' },
  { value: 'square', label: 'Square' },
] as const;
const QUALITIES = [
  { value: 'small', label: 'Small' },
  { value: 'good', label: 'Good' },
  { value: 'best', label: 'Best' },
] as const;
const CAPTIONS = [
  { value: 'none', label: 'None' },
  { value: 'track', label: 'In the file, to switch on' },
  { value: 'file', label: 'Beside it, as a .vtt file' },
  { value: 'drawn', label: 'In the picture, below the page' },
] as const;
const sizes = computed(() =>
  FILM_SIZES.map((sizePx) => {
    const { widthPx, heightPx } = pictureSize({ shape: settings.shape, sizePx });
    return { value: String(sizePx), label: `${widthPx} × ${heightPx}` };
  }),
);
const size = computed({
  get: () => String(settings.sizePx),
  set: (value) => (settings.sizePx = FILM_SIZES.find((one) => String(one) === value)!),
});
const rates = FRAME_RATES.map((one) => ({ value: String(one), label: `${one} a second` }));
const rate = computed({
  get: () => String(settings.framesPerSecond),
  set: (value) => (settings.framesPerSecond = FRAME_RATES.find((one) => String(one) === value)!),
});
/** The page at the playhead, for as long as it is shown without a break; `null` where there is no other. */
const shown = computed(() => {
  const { trail, base, pagesAtEnd } = lesson.timeline!;
  const at = Math.min(listening.samples, lesson.lengthSamples - 1);
  const part = pagePartAt(trail, base.shown, at);
  if (part.from === 0 && part.to === lesson.lengthSamples) return null;
  const n = pagesAtEnd.indexOf(lesson.timeline!.at(at).scene.shown) + 1;
  return { title: `Page ${n}`, stretch: { fromSamples: part.from, toSamples: part.to } };
});
const extents = computed(() => [
  { value: 'whole', label: 'The whole lesson' },
  ...(parts.chapterStretches.length > 1 ? [{ value: 'chapters', label: 'Each chapter, a file of its own' }] : []),
  ...parts.chapterStretches.map(({ title }, n) => ({ value: String(n), label: `Chapter: ${title}` })),
  ...(shown.value ? [{ value: 'page', label: `${shown.value.title}, as it is shown now` }] : []),
  { value: 'stretch', label: 'A stretch' },
]);
const asked = computed<FilmExtent>(() => {
  if (extent.value === 'whole') return { kind: 'whole' };
  if (extent.value === 'chapters') return { kind: 'chapters' };
  if (extent.value === 'page' && shown.value) return { kind: 'stretch', ...shown.value };
  if (extent.value !== 'stretch') return { kind: 'stretch', ...parts.chapterStretches[Number(extent.value)] };
  const times = `${clockText(from.value)} to ${clockText(to.value)}`;
  return { kind: 'stretch', stretch: { fromSamples: from.value, toSamples: to.value }, title: times };
});
const bytes = computed(() => sizeText(parts.bytesOf(settings, asked.value)));

watch(
  () => [settings.shape, settings.sizePx, settings.framesPerSecond, settings.quality],
  async () => {
    const able = await Promise.all(KINDS.map(({ value }) => encoderOf({ ...settings, codec: value })));
    missing.value = new Set(KINDS.flatMap(({ value }, n) => (able[n] === null ? [value] : [])));
  },
  { immediate: true },
);

async function make() {
  problem.value = '';
  if (extent.value === 'stretch' && from.value >= to.value) {
    problem.value = 'The stretch ends before it begins. Move one of its ends.';
  } else if (missing.value.has(settings.codec)) {
    problem.value = 'Nobody here can make that. Choose another kind of file, or a smaller picture.';
  } else {
    films.settings = { ...settings };
    emit('close');
    await parts.order(asked.value, { ...settings });
  }
}
</script>

<template>
  <dialog-card :show="true" title="A video the way you want it" style="max-width: 46rem" @update:show="emit('close')">
    <form class="form" @submit.prevent="make">
      <label class="wide"
        >What it shows <select-field v-model="extent" label="What it shows" :options="extents"
      /></label>
      <div v-if="extent === 'stretch'" class="wide">
        <range-field v-model="from" :min="0" :max="lesson.lengthSamples" :step="STEP_SAMPLES">
          From {{ clockText(from) }}
        </range-field>
        <range-field v-model="to" :min="0" :max="lesson.lengthSamples" :step="STEP_SAMPLES">
          To {{ clockText(to) }}
        </range-field>
      </div>
      <div class="wide three">
        <fieldset>
          <legend>Kind of file</legend>
          <radio-field v-model="settings.codec" label="Kind of file" :options="kinds" is-column />
        </fieldset>
        <fieldset>
          <legend>Shape</legend>
          <radio-field v-model="settings.shape" label="Shape" :options="SHAPES" is-column />
        </fieldset>
        <fieldset>
          <legend>Quality</legend>
          <radio-field v-model="settings.quality" label="Quality" :options="QUALITIES" is-column />
        </fieldset>
      </div>
      <label>Size <select-field v-model="size" label="Size" :options="sizes" /></label>
      <label>Frames <select-field v-model="rate" label="Frames" :options="rates" /></label>
      <label class="wide"
        >Captions <select-field v-model="settings.captions" label="Captions" :options="[...CAPTIONS]"
      /></label>
      <fieldset class="wide">
        <legend>In the picture</legend>
        <div class="in-picture">
          <div>
            <n-checkbox v-model:checked="settings.hasPointer">What I point at</n-checkbox><br />
            <n-checkbox v-model:checked="settings.hasInstruments">Rulers and the like</n-checkbox><br />
            <n-checkbox v-model:checked="settings.hasTitleCard"
              >The lesson’s name, for three seconds before it</n-checkbox
            >
          </div>
          <label>Around the page <color-field v-model="settings.surround" /></label>
        </div>
      </fieldset>
      <problem-text v-if="problem" class="wide">{{ problem }}</problem-text>
      <div class="wide ends">
        <span class="told">About {{ bytes }}</span>
        <n-button size="large" @click="emit('close')">Cancel</n-button>
        <n-button size="large" type="primary" attr-type="submit">
          {{ extent === 'chapters' ? 'Make the videos' : 'Make this video' }}
        </n-button>
      </div>
    </form>
  </dialog-card>
</template>

<style scoped src="../dialog-form.css"></style>

<style scoped>
.three {
  display: grid;
  grid-template-columns: 1.7fr 1.3fr 0.7fr;
  gap: 1rem 1.25rem;
  align-items: start;
}

.in-picture {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0.35rem 1.25rem;
  align-items: start;
}

.told {
  margin-right: auto;
  font-variant-numeric: tabular-nums;
  color: var(--ink-soft);
}

@media (max-width: 640px) {
  .three {
    grid-template-columns: 1fr;
  }
}
</style>
