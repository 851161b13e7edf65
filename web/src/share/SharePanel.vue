<script setup lang="ts">
import { IconDownload, IconLink, IconMovie } from '@tabler/icons-vue';
import { NButton, NPopconfirm } from 'naive-ui';
import { computed, ref } from 'vue';
import LinkField from '../controls/LinkField.vue';
import { linkSound } from '../playback/served-sound';
import { useFilm } from '../lesson/film';
import { api, watchUrl } from '../server/api';
import { assetIdOf, upload } from '../server/upload';
import WorkProgress from '../controls/WorkProgress.vue';
import { useEditing } from '../lesson/editing';
import { useLesson } from '../lesson/lesson';
import { useVoices } from '../lesson/voices';
import { useSheetPictures } from '../bring-in/sheet-pictures';

/** A link for students, and a video to keep. */
const lesson = useLesson();
const editing = useEditing();
const voices = useVoices();
const sheetPictures = useSheetPictures();
const problem = ref('');
const sharing = ref<number | null>(null);
const film = useFilm();
const { progress: exporting, film: video } = film;
const link = computed(() => lesson.document?.link ?? null);

async function share() {
  problem.value = '';
  sharing.value = 0;
  try {
    await Promise.all([lesson.save(), editing.arrived()]);
    await sheetPictures.drawMissing();
    const { id, edit } = lesson.document!;
    const { programme } = lesson;
    const served = await voices.served(programme);
    const sound = served.urls.size > 0 ? await linkSound(served, (done) => (sharing.value = done)) : null;
    const named = sound && (await assetIdOf(sound));
    const publish = () => api.publish(id, edit.n, named);
    await lesson.accept(await (sound && named ? upload(named, sound, publish) : publish()));
  } catch (error) {
    problem.value = (error as Error).message;
  } finally {
    sharing.value = null;
  }
}

async function withdraw() {
  problem.value = '';
  try {
    await lesson.accept(await api.withdraw(lesson.document!.id));
  } catch (error) {
    problem.value = (error as Error).message;
  }
}

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
              @positive-click="withdraw"
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
            :disabled="sharing !== null || !lesson.isWithServer"
            @click="share"
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
          <n-button type="primary" size="large" :disabled="sharing !== null || !lesson.isWithServer" @click="share"
            >Make a watch link</n-button
          >
        </template>
        <work-progress v-if="sharing !== null" label="Sharing" :done="sharing" />
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
      <p v-if="problem || film.problem.value" class="problem" role="alert">{{ problem || film.problem.value }}</p>
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

.stale,
.problem {
  color: var(--kite-deep);
}

.download {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  padding: 0.75rem 1rem;
  font-weight: 650;
  color: #fff;
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
