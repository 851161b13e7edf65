<script setup lang="ts">
import { spacedCode } from '@kite-trail/core/contract/live';
import { NButton } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import DialogCard from '../controls/DialogCard.vue';
import { qrSvg } from '../controls/qr-code';
import { useLive } from './live';

/** The code under which the page is followed, to be read across a room, and how many follow. */
const live = useLive();
const picture = ref('');

const spaced = computed(() => spacedCode(live.page?.code ?? ''));
const place = computed(() => live.address && new URL(live.address).host + '/live');
const following = computed(() => {
  if (!live.isReached) return 'The school cannot be reached just now. What you write is shown when it is back.';
  if (live.followers === 0) return 'Nobody follows yet.';
  return live.followers === 1 ? '1 screen follows.' : `${live.followers} screens follow.`;
});

watch(
  () => live.address,
  async (address) => {
    picture.value = address ? await qrSvg(address) : '';
  },
  { immediate: true },
);
</script>

<template>
  <dialog-card
    :show="true"
    title="This page is shown live"
    style="max-width: 44rem"
    @update:show="live.isPanelOpen = false"
  >
    <div class="live">
      <img v-if="picture" :src="picture" :alt="`QR code of ${live.address}`" />
      <div class="words">
        <p class="how">
          Open <strong>{{ place }}</strong> on any device and type
        </p>
        <p class="code" :aria-label="`Code ${spaced}`">{{ spaced }}</p>
        <p role="status">{{ following }}</p>
        <p class="note">
          They see the page alone, as you write it. The code stays the same, also in your other lessons, until you end
          it.
        </p>
      </div>
    </div>
    <template #footer>
      <n-button size="large" @click="live.end">End it</n-button>
      <n-button type="primary" size="large" @click="live.isPanelOpen = false">Go on writing</n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.live {
  display: flex;
  gap: 1.5rem;
  align-items: center;
}

img {
  width: 14rem;
  border-radius: 12px;
}

.words {
  flex: 1;
  min-width: 0;
}

p {
  margin: 0 0 0.6rem;
}

.how {
  font-size: 1.1rem;
}

.code {
  font-size: clamp(2.2rem, 6vw, 3.4rem);
  font-weight: 700;
  line-height: 1.15;
  letter-spacing: 0.06em;
}

.note {
  color: var(--ink-soft);
}

@media (max-width: 640px) {
  .live {
    flex-direction: column;
    text-align: center;
  }
}
</style>
