<script setup lang="ts">
import { IconCamera } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { onBeforeUnmount, ref, shallowRef, watch } from 'vue';
import { openCamera, pictureOfStream, STAND_IN_PICTURES, stopStream } from '../capture/still-pictures';
import { preparePicture, written } from '../pictures/prepare-picture';
import { useBringIn } from './bring-in';
import { useRecordingNow } from '../lesson/recording-now';
import DialogCard from '../controls/DialogCard.vue';

/** Takes a picture with the camera; where there is none, shipped pictures serve. */
const open = defineModel<boolean>('open', { required: true });

const bringIn = useBringIn();
const recording = useRecordingNow();
const stream = shallowRef<MediaStream | null>(null);
const video = ref<HTMLVideoElement>();
const hasNoCamera = ref(false);

watch(open, async (now) => {
  release();
  if (!now) return;
  recording.pause();
  stream.value = await openCamera();
  hasNoCamera.value = stream.value === null;
  if (!open.value) release();
});
watch([stream, video], () => {
  if (!video.value) return;
  video.value.srcObject = stream.value;
});
onBeforeUnmount(release);

function release() {
  if (stream.value) stopStream(stream.value);
  stream.value = null;
}

async function take() {
  const bitmap = await pictureOfStream(stream.value!);
  open.value = false;
  await bringIn.place('camera.jpg', await written(bitmap, 'image/jpeg'));
}

async function takeStandIn(url: string) {
  open.value = false;
  await bringIn.place(url.split('/').at(-1)!, await preparePicture(await (await fetch(url)).blob()));
}
</script>

<template>
  <dialog-card v-model:show="open" close-focusable class="camera" title="Take a picture">
    <template v-if="hasNoCamera">
      <p class="note">There is no camera here, or it may not be used. These pictures serve to try it out.</p>
      <div class="pictures">
        <button v-for="one in STAND_IN_PICTURES" :key="one.url" class="picture" @click="takeStandIn(one.url)">
          <img :src="one.url" alt="" />
          {{ one.name }}
        </button>
      </div>
    </template>
    <template v-else>
      <video ref="video" class="live" autoplay muted playsinline></video>
      <n-button type="primary" size="large" block :disabled="!stream" @click="take">
        <template #icon><icon-camera :size="22" /></template>
        Take it
      </n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.live {
  display: block;
  width: 100%;
  margin-bottom: 12px;
  background: var(--ink);
  border-radius: var(--radius);
}

.note {
  margin-top: 0;
  color: var(--ink-soft);
}

.pictures {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 10px;
}

.picture {
  display: grid;
  gap: 6px;
  padding: 6px;
  cursor: pointer;
  background: transparent;
  border: 2px solid var(--line);
  border-radius: var(--radius);
}

.picture:hover {
  border-color: var(--straw);
}

.picture img {
  width: 100%;
  aspect-ratio: 4 / 3;
  object-fit: cover;
  border-radius: 6px;
}
</style>

<style>
.camera {
  width: min(640px, 94vw);
}
</style>
