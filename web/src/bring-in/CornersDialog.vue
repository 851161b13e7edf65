<script setup lang="ts">
import { isConvex, type Corners } from '@kite-trail/core/photograph/page-corners';
import { NButton } from 'naive-ui';
import { computed, ref, watch } from 'vue';
import DialogCard from '../controls/DialogCard.vue';
import { useStraightening } from './straightening';

/** Where somebody says where the corners of a photographed sheet are. */
const straightening = useStraightening();

const NAMES = ['Top left corner', 'Top right corner', 'Bottom right corner', 'Bottom left corner'];
/** Where they are at first, as parts of the photograph's width and height. */
const FIRST = [
  { u: 0.1, v: 0.1 },
  { u: 0.9, v: 0.1 },
  { u: 0.9, v: 0.9 },
  { u: 0.1, v: 0.9 },
];
/** A key moves a corner by this part. */
const STEP = 0.005;
const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};

const corners = ref(FIRST.map((corner) => ({ ...corner })));
const address = ref('');
const picture = ref<HTMLImageElement>();
const outline = computed(() => corners.value.map(({ u, v }) => `${100 * u},${100 * v}`).join(' '));

const cornersIn = (widthPx: number, heightPx: number) =>
  corners.value.map(({ u, v }) => ({ xPx: u * widthPx, yPx: v * heightPx })) as unknown as Corners;
/** Whatever the photograph's proportions are. */
const isSheet = computed(() => isConvex(cornersIn(1, 1)));

watch(
  () => straightening.byHand?.file,
  (file) => {
    URL.revokeObjectURL(address.value);
    address.value = file ? URL.createObjectURL(file) : '';
    corners.value = FIRST.map((corner) => ({ ...corner }));
  },
  { immediate: true },
);

function put(n: number, u: number, v: number) {
  const within = (part: number) => Math.min(1, Math.max(0, part));
  corners.value[n] = { u: within(u), v: within(v) };
}

function dragged(n: number, event: PointerEvent) {
  if (!(event.currentTarget as Element).hasPointerCapture(event.pointerId)) return;
  const { left, top, width, height } = picture.value!.getBoundingClientRect();
  put(n, (event.clientX - left) / width, (event.clientY - top) / height);
}

function keyed(n: number, event: KeyboardEvent) {
  const step = STEPS[event.key];
  if (!step) return;
  event.preventDefault();
  put(n, corners.value[n].u + step[0], corners.value[n].v + step[1]);
}

function straighten() {
  const { naturalWidth, naturalHeight } = picture.value!;
  void straightening.straightenBetween(cornersIn(naturalWidth, naturalHeight));
}
</script>

<template>
  <dialog-card
    :show="straightening.byHand !== null"
    title="Where are the corners of the sheet?"
    style="max-width: 52rem"
    :mask-closable="false"
    @close="straightening.dismiss()"
    @esc="straightening.dismiss()"
  >
    <div class="photograph">
      <img v-if="address" ref="picture" :src="address" alt="The photograph" draggable="false" />
      <svg viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
        <polygon :points="outline" />
      </svg>
      <button
        v-for="(corner, n) in corners"
        :key="NAMES[n]"
        class="corner"
        :aria-label="NAMES[n]"
        :style="{ left: `${100 * corner.u}%`, top: `${100 * corner.v}%` }"
        @pointerdown="($event.currentTarget as Element).setPointerCapture($event.pointerId)"
        @pointermove="dragged(n, $event)"
        @keydown="keyed(n, $event)"
      ></button>
    </div>
    <p v-if="!isSheet" class="crossed" role="status">Each corner has its own place: none lies across another.</p>
    <template #footer>
      <n-button size="large" @click="straightening.dismiss()">Leave it as it is</n-button>
      <n-button size="large" type="primary" :disabled="!isSheet" @click="straighten">Straighten</n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.photograph {
  position: relative;
  width: fit-content;
  margin: 0 auto;
  line-height: 0;
  touch-action: none;
}

.crossed {
  margin: 0.6rem 0 0;
  color: var(--kite-deep);
  text-align: center;
}

img {
  max-width: 100%;
  max-height: 60vh;
}

svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: visible;
  pointer-events: none;
}

polygon {
  fill: rgb(233 196 106 / 18%);
  stroke: var(--straw);
  stroke-width: 2px;
  vector-effect: non-scaling-stroke;
}

.corner {
  position: absolute;
  width: 44px;
  height: 44px;
  padding: 0;
  margin: -22px;
  cursor: grab;
  /* Seen on any photograph. */
  background: radial-gradient(circle, transparent 5px, #fff 6px, var(--kite) 7px 10px, #fff 11px, transparent 12px);
  border: 0;
  border-radius: 50%;
}

.corner:focus-visible {
  outline: 3px solid var(--straw);
}
</style>
