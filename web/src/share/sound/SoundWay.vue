<script setup lang="ts">
import { soundBytes } from '@kite-trail/core/film/sound';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { IconHeadphones } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import ProblemText from '../../controls/ProblemText.vue';
import { useAttempt } from '../../controls/attempt';
import SelectField from '../../controls/SelectField.vue';
import { fileNameOf } from '../../device/file-name';
import { useKeptSetting } from '../../device/kept-setting';
import { usePlaced } from '../../lesson/edition/placed';
import { useLesson } from '../../lesson/lesson';
import { useVoices } from '../../lesson/voices';
import { sizeText } from '../../look/size';
import MakingList from '../../making/MakingList.vue';
import { useMakings } from '../../making/makings';
import { soundWork } from '../../making/sound-work';

/** The lesson to listen to. */
const lesson = useLesson();
const placed = usePlaced();
const voices = useVoices();
const makings = useMakings();
const { problem, attempt } = useAttempt();
const SOUND = 'sound';

const KINDS = [
  { value: 'aac', label: 'M4A: plays everywhere', ending: '.m4a' },
  { value: 'opus', label: 'Opus: the smallest', ending: '.opus' },
  { value: 'pcm-s16', label: 'WAV: to work on', ending: '.wav' },
] as const;
const codec = useKeptSetting<(typeof KINDS)[number]['value']>('kite-trail-sound-file', 'aac');
const kind = computed(() => KINDS.find(({ value }) => value === codec.value) ?? KINDS[0]);
const size = computed(() => sizeText(soundBytes(kind.value.value, samplesToSeconds(lesson.lengthSamples))));

const make = () =>
  attempt(async () => {
    const { document, programme, timeline } = lesson;
    const { value, ending } = kind.value;
    const sound = await voices.served(programme);
    if (sound.voices.size === 0) throw new Error('Nobody speaks in this lesson yet.');
    const chapters = placed.filmChapters(programme, timeline!);
    const { id, title, about } = document!;
    const described = { title, language: about.language, chapters };
    const name = fileNameOf(title, ending);
    makings.add(soundWork({ lesson: id, of: SOUND, name, sound, codec: value, about: described }));
  });
</script>

<template>
  <div class="way">
    <h2><icon-headphones :size="22" /> Sound alone</h2>
    <making-list :list="makings.of(lesson.document!.id, SOUND)" />
    <select-field v-model="codec" label="Kind of sound file" :options="[...KINDS]" />
    <n-button @click="make">Make the sound file</n-button>
    <p class="note">About {{ size }}{{ codec === 'pcm-s16' ? '' : ', with its chapters' }}.</p>
    <problem-text v-if="problem">{{ problem }}</problem-text>
  </div>
</template>

<style scoped src="../way.css"></style>
