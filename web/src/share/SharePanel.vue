<script setup lang="ts">
import { IconLink, IconMail } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import type { SchoolClass } from '@kite-trail/core/contract/class';
import SharedAddress from '../controls/SharedAddress.vue';
import { api, watchUrl } from '../server/api';
import WorkProgress from '../controls/WorkProgress.vue';
import ArchiveWay from './archive/ArchiveWay.vue';
import ClassPages from './ClassPages.vue';
import DriveWay from './drive/DriveWay.vue';
import FilmWay from './films/FilmWay.vue';
import HandoutWay from './handout/HandoutWay.vue';
import FromStudents from './FromStudents.vue';
import LinksDialog from './links/LinksDialog.vue';
import MailDialog from './mail/MailDialog.vue';
import MailsTold from './mail/MailsTold.vue';
import OfflinePageWay from './offline-page/OfflinePageWay.vue';
import OpenInk from './OpenInk.vue';
import SoundWay from './sound/SoundWay.vue';
import TaskWay from './task/TaskWay.vue';
import PicturesWay from './pictures/PicturesWay.vue';
import WordsWay from './words/WordsWay.vue';
import { useSharing } from './sharing';
import { useSoundAhead } from './sound-ahead';
import { useDrives } from '../drives/drives';
import { useLesson } from '../lesson/lesson';
import ProblemText from '../controls/ProblemText.vue';

/** A link for students, a video to show, a hand-out to print, and what other programs can go on with. */
const lesson = useLesson();
const sharing = useSharing();
const drives = useDrives();
const link = computed(() => lesson.document?.link ?? null);
const live = computed(() => (sharing.links ?? []).filter(({ state }) => state === 'live'));
/** Some of those who watch see the lesson as it was before. */
const isBehind = computed(() => link.value?.upToDate === false || live.value.some(({ isUpToDate }) => !isUpToDate));
const isLocked = computed(() => live.value.find(({ token }) => token === link.value?.token)?.hasPasscode ?? false);
const areLinksShown = ref(false);
const isMailShown = ref(false);
const isElsewhereOpen = ref(false);
const classes = shallowRef<SchoolClass[]>([]);

/** Nobody waits longer for what may come. */
const SETTLES_WITHIN_MS = 1000;

/** Where the network is gone, the link stays in sight. */
async function knowClasses() {
  classes.value = (await api.classes().catch(() => [])).filter(({ isArchived }) => !isArchived);
}
useSoundAhead();
// What is known of the links moves all that is below them: it is shown when that is there, or does not come.
const isSettled = ref(false);
onMounted(async () => {
  const known = Promise.all([sharing.load(), knowClasses(), drives.load()]);
  await Promise.race([known, new Promise((resolve) => setTimeout(resolve, SETTLES_WITHIN_MS))]);
  isSettled.value = true;
});
// Whoever shares with a class for the first time gives it a page.
watch(
  () => sharing.links,
  () => isSettled.value && knowClasses(),
);
</script>

<template>
  <section class="share" aria-label="Share">
    <p v-if="lesson.lengthSamples === 0">Record something first; then it can be shared here.</p>
    <template v-else>
      <div class="way">
        <h2><icon-link :size="22" /> Watch link</h2>
        <template v-if="link">
          <shared-address :address="watchUrl(link.token)" label="Watch link" :name="lesson.document!.title">
            <n-button @click="isMailShown = true">
              <template #icon><icon-mail /></template>By mail
            </n-button>
          </shared-address>
          <mails-told @open="isMailShown = true" />
          <p v-if="isBehind" class="stale">You have edited since. Students still see what was shared before.</p>
          <n-button
            v-if="isBehind"
            type="primary"
            :disabled="sharing.progress !== null || !lesson.isWithServer"
            @click="sharing.share()"
          >
            Share the edited trail
          </n-button>
          <p v-else class="note">
            Whoever has this link{{ isLocked ? ' and its passcode' : '' }} can watch, without an account.
          </p>
          <class-pages :classes="classes" />
        </template>
        <template v-else>
          <p v-if="!lesson.isWithServer" class="note">
            The recording is on its way to the server; then it can be shared.
          </p>
          <p v-else class="note">Students open it on any phone or computer, without an account.</p>
          <n-button
            type="primary"
            size="large"
            :disabled="sharing.progress !== null || !lesson.isWithServer"
            @click="sharing.share()"
            >Make a watch link</n-button
          >
        </template>
        <n-button v-if="sharing.links?.length" quaternary class="all" @click="areLinksShown = true">
          All links and their rules
        </n-button>
        <work-progress v-if="sharing.progress !== null" label="Sharing" :done="sharing.progress" />
      </div>
      <template v-if="isSettled">
        <from-students v-if="link" :classes="classes" />
        <film-way />
      </template>
      <problem-text v-if="sharing.problem">{{ sharing.problem }}</problem-text>
    </template>
    <task-way v-if="isSettled" :classes="classes" />
    <handout-way v-if="isSettled" />
    <details v-if="isSettled" class="elsewhere" @toggle="isElsewhereOpen = ($event.target as HTMLDetailsElement).open">
      <summary>
        <span class="what">Pictures, sound, words, ink</span>
        <span class="note">Also an offline page, and an archive to keep. All in open formats.</span>
      </summary>
      <pictures-way />
      <template v-if="lesson.lengthSamples > 0">
        <sound-way />
        <words-way />
        <offline-page-way />
      </template>
      <open-ink />
      <archive-way v-if="isElsewhereOpen" />
      <drive-way v-if="drives.areThere" />
    </details>
    <mail-dialog v-if="isMailShown && link" :token="link.token" @close="isMailShown = false" />
    <links-dialog v-if="areLinksShown" :classes="classes" @close="areLinksShown = false" />
  </section>
</template>

<style scoped>
.share {
  display: grid;
  gap: 1rem;
  align-content: start;
}

.share :deep(.way) {
  display: grid;
  gap: 0.7rem;
  padding: 1.1rem;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

.share :deep(h2) {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  margin: 0;
  font-size: 1.1rem;
}

.note,
.stale {
  margin: 0;
  color: var(--ink-soft);
}

.stale {
  color: var(--kite-deep);
}

.elsewhere {
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

.elsewhere summary {
  display: grid;
  gap: 0.2rem;
  padding: 1.1rem;
  cursor: pointer;
  border-radius: 14px;
}

.what {
  font-size: 1.1rem;
  font-weight: 700;
}

/* What a summary is opened by is its sign, which a grid has not. */
.what::after {
  float: right;
  content: '▾' / '';
}

.elsewhere[open] .what::after {
  content: '▴' / '';
}

.elsewhere :deep(.way) {
  border-top: 1px solid var(--line);
  border-radius: 0;
  box-shadow: none;
}

.all {
  justify-self: start;
}
</style>
