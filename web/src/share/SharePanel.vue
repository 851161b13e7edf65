<script setup lang="ts">
import { IconDownload, IconLink, IconMovie } from '@tabler/icons-vue';
import { NButton, NPopconfirm } from 'naive-ui';
import { computed } from 'vue';
import LinkField from '../controls/LinkField.vue';
import { useFilms } from '../lesson/films';
import { watchUrl } from '../server/api';
import WorkProgress from '../controls/WorkProgress.vue';
import { useSharing } from './sharing';
import { useLesson } from '../lesson/lesson';
import ProblemText from '../controls/ProblemText.vue';

/** A link for students, and a video to keep. */
const lesson = useLesson();
const sharing = useSharing();
const film = useFilms().of('the lesson');
const { progress: exporting, film: video } = film;
const link = computed(() => lesson.document?.link ?? null);

const exportVideo = () =>
  film.make({
    name: lesson.document!.title,
    base: lesson.recorded!.base,
    trail: lesson.timeline!.trail,
    programme: lesson.programme,
  });
</script>

<template>
  <section class="share" aria-label="Share">
    <p v-if="lesson.lengthSamples === 0">Record something first; then it can be shared here.</p>
    <template v-else>
      <div class="way">
        <h2><icon-link :size="22" /> Watch link</h2>
        <template v-if="link">
          <link-field :address="watchUrl(link.token)" label="Watch link">
            <n-button tag="a" :href="watchUrl(link.token)" target="_blank">Open</n-button>
            <n-popconfirm
              positive-text="Withdraw it"
              negative-text="Keep it"
              placement="bottom-end"
              :positive-button-props="{ size: 'large', type: 'default' }"
              :negative-button-props="{ size: 'large', type: 'primary', ghost: false }"
              @positive-click="sharing.withdraw()"
            >
              <template #trigger><n-button>Withdraw</n-button></template>
              <p class="asked">
                Students can no longer watch, and this address cannot be given back: a new link has another one.
              </p>
            </n-popconfirm>
          </link-field>
          <p v-if="!link.upToDate" class="stale">You have edited since. Students still see what was shared before.</p>
          <n-button
            v-if="!link.upToDate"
            type="primary"
            :disabled="sharing.progress !== null || !lesson.isWithServer"
            @click="sharing.share()"
          >
            Share the edited trail
          </n-button>
          <p v-else class="note">Whoever has this link can watch, without an account.</p>
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
        <work-progress v-if="sharing.progress !== null" label="Sharing" :done="sharing.progress" />
      </div>
      <div class="way">
        <h2><icon-movie :size="22" /> Video</h2>
        <template v-if="exporting !== null">
          <work-progress label="Making the video" :done="exporting" />
          <p class="note">You can go on working meanwhile.</p>
          <n-button @click="film.cancel()">Cancel</n-button>
        </template>
        <template v-else>
          <a v-if="video" class="download" :href="video.url" :download="video.name">
            <icon-download :size="22" /> Save {{ video.name }}
          </a>
          <p class="note">MP4, 1280 × 720, plays everywhere. Only the page is in the picture.</p>
          <n-button :size="video ? 'medium' : 'large'" @click="exportVideo">
            {{ video ? 'Make it again' : 'Make a video' }}
          </n-button>
        </template>
      </div>
      <problem-text v-if="sharing.problem || film.problem.value">
        {{ sharing.problem || film.problem.value }}
      </problem-text>
    </template>
  </section>
</template>

<style scoped>
.share {
  display: grid;
  gap: 1rem;
  align-content: start;
}

.way {
  display: grid;
  gap: 0.7rem;
  padding: 1.1rem;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

h2 {
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

.download {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  padding: 0.75rem 1rem;
  font-weight: 650;
  color: var(--on-tail);
  text-decoration: none;
  overflow-wrap: anywhere;
  background: var(--tail);
  border-radius: var(--radius);
}

.asked {
  max-width: 20rem;
  margin: 0;
}
</style>
