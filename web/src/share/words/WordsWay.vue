<script setup lang="ts">
import { writeSubRip, writeWebVtt } from '@kite-trail/core/formats/timed-text';
import { writeMarkdown, writeTranscript } from '@kite-trail/core/formats/transcript';
import { timedText } from '@kite-trail/core/trail/captions';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { IconFileText } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import SelectField from '../../controls/SelectField.vue';
import { fileNameOf } from '../../device/file-name';
import { useKeptSetting } from '../../device/kept-setting';
import { saveText } from '../../device/save-file';
import { usePlaced } from '../../lesson/edition/placed';
import { useLesson } from '../../lesson/lesson';
import { useTranscript } from '../../lesson/edition/transcript';

/** The lesson in words: to read, to search, to go on with in other programs. */
const lesson = useLesson();
const placed = usePlaced();

const cues = computed(() => placed.cuesOf(lesson.programme));

const { transcript } = useTranscript();

const KINDS = [
  { value: 'txt', label: 'A text with times', type: 'text/plain', write: () => writeTranscript(transcript()) },
  { value: 'md', label: 'Markdown', type: 'text/markdown', write: () => writeMarkdown(transcript()) },
  { value: 'vtt', label: 'Captions: WebVTT', type: 'text/vtt', write: () => writeWebVtt(cues.value.map(timedText)) },
  { value: 'srt', label: 'Captions: SubRip', type: 'text/plain', write: () => writeSubRip(cues.value.map(timedText)) },
  {
    value: 'chapters',
    label: 'Chapters: WebVTT',
    type: 'text/vtt',
    write: () => {
      const { chapters } = transcript();
      const end = samplesToSeconds(lesson.lengthSamples);
      return writeWebVtt(
        chapters.map(({ startSeconds, title }, n) => ({
          startMs: startSeconds * 1000,
          endMs: (chapters[n + 1]?.startSeconds ?? end) * 1000,
          text: title,
        })),
      );
    },
  },
] as const;
type Kind = (typeof KINDS)[number]['value'];
const chosen = useKeptSetting<Kind>('kite-trail-words', 'txt');
const kind = computed(() => KINDS.find(({ value }) => value === chosen.value) ?? KINDS[0]);

function save() {
  const { value, type, write } = kind.value;
  const ending = value === 'chapters' ? ', chapters.vtt' : `.${value}`;
  saveText(fileNameOf(lesson.document!.title, ending), type, write());
}
</script>

<template>
  <div class="way">
    <h2><icon-file-text :size="22" /> Words</h2>
    <select-field v-model="chosen" label="Kind of text" :options="[...KINDS]" />
    <n-button @click="save">Save the words</n-button>
    <p v-if="cues.length === 0" class="note">There are no captions yet, so nothing that is said is in it.</p>
  </div>
</template>

<style scoped src="../way.css"></style>
