<script setup lang="ts">
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { IconHeadphones } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed } from 'vue';
import ProblemText from '../../controls/ProblemText.vue';
import { useAttempt } from '../../controls/attempt';
import SelectField from '../../controls/SelectField.vue';
import { fileNameOf } from '../../device/file-name';
import { useKeptSetting } from '../../device/kept-setting';
import { useFilms } from '../../lesson/films';
import { useLesson } from '../../lesson/lesson';
import { useVoices } from '../../lesson/voices';
import { sizeText } from '../../look/size';
import MakingList from '../../making/MakingList.vue';
import { useMakings } from '../../making/makings';
import { soundWork } from '../../making/sound-work';
import type { SoundCodec } from '../../workers/programme-sound';

/** The lesson to listen to. */
const lesson = useLesson();
const films = useFilms();
const voices = useVoices();
const makings = useMakings();
const { problem, attempt } = useAttempt();
const SOUND = 'sound';

const KINDS = [
  { value: 'aac', label: 'M4A: plays everywhere', ending: '.m4a', bytesPerSecond: 8_000 },
  { value: 'opus', label: 'Opus: the smallest', ending: '.opus', bytesPerSecond: 6_000 },
  { value: 'pcm-s16', label: 'WAV: to work on', ending: '.wav', bytesPerSecond: 96_000 },
] as const;
const codec = useKeptSetting<SoundCodec>('kite-trail-sound-file', 'aac');
const kind = computed(() => KINDS.find(({ value }) => value === codec.value) ?? KINDS[0]);
const size = computed(() => sizeText(samplesToSeconds(lesson.lengthSamples) * kind.value.bytesPerSecond));

const make = () =>
  attempt(async () => {
    const { document, programme, timeline } = lesson;
    const { value, ending } = kind.value;
    const sound = await voices.served(programme);
    if (sound.urls.size === 0) throw new Error('Nobody speaks in this lesson yet.');
    const chapters = films.chaptersOf(programme, timeline!).map((one) => ({
      title: one.title,
      startSeconds: samplesToSeconds(one.startSamples),
    }));
    const { id, title, about } = document!;
    const described = { title, language: about.language, chapters };
    makings.add(soundWork(id, SOUND, fileNameOf(title, ending), sound, value, described));
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
