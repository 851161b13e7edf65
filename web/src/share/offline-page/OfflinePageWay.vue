<script setup lang="ts">
import { soundBytes } from '@kite-trail/core/film/sound';
import { encodePayload } from '@kite-trail/core/formats/payload';
import { writeWebVtt } from '@kite-trail/core/formats/timed-text';
import { timedText } from '@kite-trail/core/trail/captions';
import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { placePrompts } from '@kite-trail/core/trail/prompts';
import { IconFileCode } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, ref } from 'vue';
import { useSheetPictures } from '../../bring-in/sheet-pictures';
import ProblemText from '../../controls/ProblemText.vue';
import { useAttempt } from '../../controls/attempt';
import SelectField from '../../controls/SelectField.vue';
import { fileNameOf } from '../../device/file-name';
import { useKeptSetting } from '../../device/kept-setting';
import { usePlaced } from '../../lesson/edition/placed';
import { useLesson } from '../../lesson/lesson';
import { useTranscript } from '../../lesson/edition/transcript';
import { useVoices } from '../../lesson/voices';
import { sizeText } from '../../look/size';
import MakingList from '../../making/MakingList.vue';
import { useMakings } from '../../making/makings';
import { offlinePageWork } from '../../making/offline-page-work';
import { toBase64 } from '../../server/base64';
import type { OfflineKind } from '../../workers/offline-page/offline-page';

/** The lesson as one page that needs no network: for a memory stick, a shared drive, a course system. */
const lesson = useLesson();
const voices = useVoices();
const placed = usePlaced();
const { transcript } = useTranscript();
const sheetPictures = useSheetPictures();
const makings = useMakings();
const { problem, attempt } = useAttempt();
const isGathering = ref(false);
/** By this name the queue knows it. */
const OFFLINE_PAGE = 'offline-page';

const KINDS: { value: OfflineKind; label: string; ending: string }[] = [
  { value: 'page', label: 'A page: opens in any browser', ending: '.html' },
  { value: 'course', label: 'SCORM: for course systems', ending: ', SCORM.zip' },
];
const kind = useKeptSetting<OfflineKind>('kite-trail-offline-page', 'page');
/** The program that plays it, and what is said of its sound as text. */
const PROGRAM_BYTES = 600_000;
const AS_TEXT = 4 / 3;
const size = computed(() => {
  const seconds = samplesToSeconds(lesson.lengthSamples);
  return sizeText(PROGRAM_BYTES + soundBytes('aac-light', seconds) * AS_TEXT);
});

async function make() {
  isGathering.value = true;
  await attempt(async () => {
    await lesson.save();
    await sheetPictures.drawMissing();
    const { programme, edition, document, lengthSamples } = lesson;
    const timeline = lesson.timeline!;
    const { id, title, about } = document!;
    const sound = await voices.served(programme);
    const hasSound = sound.voices.size > 0;
    const cues = placed.cuesOf(programme);
    const chapters = placed.chaptersOf(programme, timeline);
    const prompts = placePrompts(programme, edition.prompts);
    const { ending } = KINDS.find(({ value }) => value === kind.value) ?? KINDS[0];
    const page = {
      lesson: id,
      language: about.language,
      about: {
        ...{ publication: id, title, lengthSamples, pageCount: timeline.pagesAtEnd.length },
        ...{
          hasSound,
          hasCaptions: cues.length > 0,
          mayDownload: false,
          mayAsk: false,
          questions: [],
          isCounted: false,
        },
        loudness: hasSound ? toBase64(voices.loudnessOf(programme)) : '',
        chapters: chapters.map(({ startSamples, title: name }) => ({ startSamples, title: name })),
        prompts: prompts.map(({ prompt: { id: key, question, answer }, atSamples }) => ({
          ...{ id: key, question, answer },
          atSamples,
        })),
      },
      payload: encodePayload({ base: timeline.base, trail: timeline.trail }),
      captions: cues.length > 0 ? writeWebVtt(cues.map(timedText)) : null,
      lines: transcript().lines,
    };
    const asked = { of: OFFLINE_PAGE, name: fileNameOf(title, ending), kind: kind.value };
    makings.add(offlinePageWork(asked, page, hasSound ? sound : null));
  });
  isGathering.value = false;
}
</script>

<template>
  <div class="way">
    <h2><icon-file-code :size="22" /> Offline page</h2>
    <making-list :list="makings.of(lesson.document!.id, OFFLINE_PAGE)" />
    <select-field v-model="kind" label="Kind of offline page" :options="KINDS" />
    <n-button :loading="isGathering" @click="make">Make the page</n-button>
    <p class="note">
      {{
        kind === 'page'
          ? 'One file that plays the lesson without a network'
          : 'Plays in a course system, which hears how far each student came'
      }}. About {{ size }}.
    </p>
    <problem-text v-if="problem">{{ problem }}</problem-text>
  </div>
</template>

<style scoped src="../way.css"></style>
