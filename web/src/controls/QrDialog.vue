<script setup lang="ts">
import { IconDownload, IconMaximize } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { ref, watch } from 'vue';
import DialogCard from './DialogCard.vue';
import { qrPng, qrSvg } from './qr-code';

/** A link as a QR code: to be saved, or shown to a classroom. */
const { address, name } = defineProps<{ address: string; name: string }>();
const emit = defineEmits<{ close: [] }>();

const svgUrl = ref('');
const pngUrl = ref('');
const code = ref<HTMLElement>();

watch(
  () => address,
  async () => {
    [svgUrl.value, pngUrl.value] = await Promise.all([qrSvg(address), qrPng(address)]);
  },
  { immediate: true },
);
</script>

<template>
  <dialog-card :show="true" title="QR code" style="max-width: 30rem" @update:show="emit('close')">
    <div ref="code" class="code">
      <img v-if="svgUrl" :src="svgUrl" :alt="`QR code of ${address}`" />
      <p class="address">{{ address }}</p>
    </div>
    <template #footer>
      <n-button type="primary" size="large" @click="code?.requestFullscreen()">
        <template #icon><icon-maximize /></template>Full screen
      </n-button>
      <n-button tag="a" size="large" :href="pngUrl" :download="`${name}.png`">
        <template #icon><icon-download /></template>PNG
      </n-button>
      <n-button tag="a" size="large" :href="svgUrl" :download="`${name}.svg`">
        <template #icon><icon-download /></template>SVG
      </n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.code {
  display: grid;
  gap: 0.5rem;
  justify-items: center;
  background: #fff;
  border-radius: 12px;
}

.code:fullscreen {
  align-content: center;
}

img {
  width: min(100%, 22rem);
}

.code:fullscreen img {
  width: min(90vw, 84vh);
}

.address {
  max-width: 100%;
  padding: 0 1rem 1rem;
  margin: 0;
  color: #1f2a44;
  text-align: center;
  overflow-wrap: anywhere;
}

.code:fullscreen .address {
  font-size: clamp(1rem, 2.4vw, 2rem);
}
</style>
