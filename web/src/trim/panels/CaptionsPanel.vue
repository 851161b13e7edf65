<script setup lang="ts">
import type { Cue } from '@kite-trail/core/trail/captions';
import { secondsToSamples } from '@kite-trail/core/trail/clock';
import { IconArrowsHorizontal, IconPlayerPlayFilled, IconTrash } from '@tabler/icons-vue';
import { NButton, NDropdown } from 'naive-ui';
import { computed, nextTick, ref, watch } from 'vue';
import { clockText } from '../../look/time';
import { useCaptions } from './captions';
import { useLesson } from '../../lesson/lesson';
import { useStretch } from '../../trail/stretch';
import { useVoices } from '../../lesson/voices';
import { fileNameOf } from '../../device/file-name';
import { saveText } from '../../device/save-file';
import KeptText from '../../controls/KeptText.vue';
import SidePanel from '../../controls/SidePanel.vue';
import ProblemText from '../../controls/ProblemText.vue';

/** The captions: typed while one listens, spread from a script, or brought in from a file. Searched, they lead to the moment. */
const props = defineProps<{ playhead: number }>();
const emit = defineEmits<{ close: []; seek: [samples: number]; hear: [from: number, to: number] }>();

/** A caption that is added by hand lasts so long, unless a stretch is chosen. */
const ADDED_SAMPLES = secondsToSamples(3);

const captions = useCaptions();
const lesson = useLesson();
const voices = useVoices();
const stretch = useStretch();
const script = ref<string | null>(null);
const scriptField = ref<HTMLTextAreaElement>();
const picker = ref<HTMLInputElement>();
const list = ref<HTMLElement>();
const sought = ref('');

const shown = computed(() => {
  const words = sought.value.trim().toLocaleLowerCase();
  return words === '' ? captions.cues : captions.cues.filter(({ text }) => text.toLocaleLowerCase().includes(words));
});
const isNow = ({ startSamples, endSamples }: Cue) => props.playhead >= startSamples && props.playhead < endSamples;

// What is read just now stays in sight, unless somebody types.
watch(
  () => captions.cues.findIndex(isNow),
  async (at) => {
    if (at < 0 || list.value?.contains(document.activeElement)) return;
    await nextTick();
    list.value?.querySelector('.now')?.scrollIntoView({ block: 'nearest' });
  },
);

function add() {
  const { ends } = stretch;
  const from = ends?.from ?? props.playhead;
  captions.add(from, Math.min(lesson.lengthSamples, ends?.to ?? from + ADDED_SAMPLES));
}

async function askForScript() {
  script.value = '';
  await nextTick();
  scriptField.value?.focus();
}

function spread() {
  captions.spread(script.value ?? '');
  if (!captions.problem) script.value = null;
}

/** Enter goes on to the next caption and lets it be heard; Shift and Enter make a new line. */
async function typed(event: KeyboardEvent, cue: Cue) {
  if (event.key !== 'Enter' || event.shiftKey) return;
  event.preventDefault();
  captions.setText(cue.id, (event.target as HTMLTextAreaElement).value);
  await nextTick();
  const at = captions.cues.findIndex(({ id, startSamples }) => id === cue.id && startSamples >= cue.startSamples);
  const next = captions.cues[at + 1];
  if (!next) return;
  const fields = [...(list.value?.querySelectorAll('textarea') ?? [])];
  fields[fields.indexOf(event.target as HTMLTextAreaElement) + 1]?.focus();
  emit('hear', next.startSamples, next.endSamples);
}

async function picked({ target }: Event) {
  const [file] = (target as HTMLInputElement).files ?? [];
  (target as HTMLInputElement).value = '';
  if (file) await captions.bring(file);
}

const FORMATS = [
  { key: 'vtt', label: 'WebVTT' },
  { key: 'srt', label: 'SubRip' },
];
function write(format: 'vtt' | 'srt') {
  saveText(
    fileNameOf(lesson.document!.title, `.${format}`),
    format === 'vtt' ? 'text/vtt' : 'text/plain',
    captions.written(format),
  );
}
</script>

<template>
  <side-panel name="Captions" @close="emit('close')">
    <template v-if="script !== null">
      <label class="script">
        What is spoken, from beginning to end
        <textarea ref="scriptField" v-model="script" rows="10"></textarea>
      </label>
      <div class="ways">
        <n-button type="primary" :disabled="script.trim() === '' || voices.isListening" @click="spread">
          Spread over the speech
        </n-button>
        <n-button @click="script = null">Cancel</n-button>
      </div>
    </template>
    <div v-else class="ways">
      <n-button :disabled="voices.isListening" title="Empty captions where somebody speaks" @click="captions.layOut()">
        Lay out
      </n-button>
      <n-button @click="askForScript">Paste a script</n-button>
      <n-button @click="add">Add</n-button>
      <n-button @click="picker?.click()">Bring in</n-button>
      <n-dropdown trigger="click" :options="FORMATS" @select="write">
        <n-button :disabled="captions.filled.length === 0">Save as</n-button>
      </n-dropdown>
      <input ref="picker" type="file" hidden accept=".vtt,.srt,text/vtt" aria-label="Captions file" @change="picked" />
    </div>
    <problem-text v-if="captions.problem">{{ captions.problem }}</problem-text>
    <p v-if="captions.cues.length === 0" class="note">
      Lay out the stretches of speech and type what you hear, or paste your script. Captions follow every edit.
    </p>
    <template v-else>
      <input v-model="sought" class="search" type="search" placeholder="Search" aria-label="Search the captions" />
      <ol ref="list" class="list">
        <li
          v-for="cue in shown"
          :key="`${cue.id}${cue.startSamples}`"
          class="cue"
          :class="{ now: isNow(cue) }"
          :aria-current="isNow(cue) || undefined"
        >
          <button
            class="time"
            :aria-label="`Hear the caption at ${clockText(cue.startSamples)}`"
            @click="emit('hear', cue.startSamples, cue.endSamples)"
          >
            <icon-player-play-filled :size="14" /> {{ clockText(cue.startSamples) }}
          </button>
          <n-button
            v-if="stretch.ends"
            quaternary
            size="small"
            :aria-label="`Read the caption at ${clockText(cue.startSamples)} during the stretch`"
            title="Read during the chosen stretch"
            @click="captions.setTimes(cue.id, stretch.ends.from, stretch.ends.to)"
          >
            <template #icon><icon-arrows-horizontal :size="16" /></template>
          </n-button>
          <n-button
            quaternary
            size="small"
            :aria-label="`Take the caption at ${clockText(cue.startSamples)} away`"
            @click="captions.drop(cue.id)"
          >
            <template #icon><icon-trash :size="16" /></template>
          </n-button>
          <kept-text
            is-long
            class="text"
            rows="2"
            :value="cue.text"
            placeholder="Type what is said"
            maxlength="1000"
            :aria-label="`Caption at ${clockText(cue.startSamples)}`"
            @focus="emit('seek', cue.startSamples)"
            @keydown="typed($event, cue)"
            @keep="captions.setText(cue.id, $event)"
          />
        </li>
      </ol>
    </template>
  </side-panel>
</template>

<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}

.script {
  display: grid;
  gap: 0.4rem;
}

textarea,
.search {
  width: 100%;
  padding: 0.4rem 0.5rem;
  font: inherit;
  line-height: 1.35;
  color: inherit;
  resize: vertical;
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 8px;
}

.search {
  min-height: 44px;
}

.list {
  display: grid;
  gap: 0.35rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

/* Of thousands, only those in view are laid out and painted; all can be found and reached. */
.cue {
  display: grid;
  content-visibility: auto;
  contain-intrinsic-size: auto 96px;
  overflow-clip-margin: 6px;
  grid-template-columns: 1fr auto auto;
  align-items: center;
  padding: 0.1rem 0.35rem 0.35rem;
  background: var(--paper);
  border-left: 4px solid transparent;
  border-radius: 8px;
}

.now {
  background: var(--straw-pale);
  border-left-color: var(--straw);
}

.time {
  justify-self: start;
  min-height: 32px;
  padding: 0 0.4rem;
  font-variant-numeric: tabular-nums;
  color: var(--tail);
  cursor: pointer;
  background: transparent;
  border: 0;
  border-radius: var(--radius);
}

@media (any-pointer: coarse) {
  .time {
    min-height: 44px;
  }
}

.text {
  grid-column: 1 / -1;
  background: transparent;
}
</style>
