<script setup lang="ts">
import { legibleInk } from '@kite-trail/core/paint/legible';
import type { Pen } from '@kite-trail/core/lesson/piece';
import {
  IconArrowBackUp,
  IconArrowForwardUp,
  IconEraser,
  IconHandFinger,
  IconHandGrab,
  IconPlus,
} from '@tabler/icons-vue';
import { NPopover } from 'naive-ui';
import { ref } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import { penDeviceOf } from '../../capture/pen-input';
import { useRoomLight } from '../../device/room-light';
import { useRecordingNow } from '../../lesson/recording-now';
import { useDesk } from '../../lesson/desk';
import { penName, usePens, WIDTHS_AT_HAND } from './pens';
import EraserOptions from './EraserOptions.vue';
import PenEditor from './PenEditor.vue';
import { onPageTouched } from '../page-touched';
import PenSample from './PenSample.vue';
import PointerOptions from './PointerOptions.vue';

/** The teacher's own pens, one touch away. The one that is held, touched again, can be changed; so can the eraser. */
const pens = usePens();
const desk = useDesk();
const room = useRoomLight();
const recording = useRecordingNow();
const open = ref<'pen' | 'eraser' | 'pointer' | null>(null);

const isHeld = (index: number) => pens.held === 'pen' && pens.at === index;
const widthOf = (one: (typeof WIDTHS_AT_HAND)[number]) =>
  pens.heldPen.kind === 'highlighter' ? one.broadPt : one.widthPt;

/** @param event of the click: it says which pen touched, where several are told apart */
function touch(index: number, event: MouseEvent) {
  const wasHeld = isHeld(index);
  pens.pick(index, event instanceof PointerEvent ? penDeviceOf(event) : undefined);
  show(wasHeld && open.value !== 'pen' ? 'pen' : null);
}

/** Touched again, a tool in hand shows what can be chosen of it. */
function touchTool(tool: 'eraser' | 'point') {
  const wasHeld = pens.held === tool;
  const options = tool === 'eraser' ? 'eraser' : 'pointer';
  pens.held = tool;
  show(wasHeld && open.value !== options ? options : null);
}

function show(what: typeof open.value) {
  if (what) recording.pause();
  open.value = what;
}

onPageTouched(() => (open.value = null));

function pickUp() {
  pens.held = 'hold';
  open.value = null;
}
</script>

<template>
  <div class="roll" role="group" aria-label="Pens">
    <n-popover :show="open === 'pen'" trigger="manual" placement="right-start" @clickoutside="open = null">
      <template #trigger>
        <vue-draggable
          class="pens"
          :model-value="pens.roll"
          :delay="280"
          :delay-on-touch-only="true"
          :animation="140"
          @update:model-value="(order: Pen[]) => pens.reorder(order)"
        >
          <button
            v-for="(pen, i) in pens.roll"
            :key="i"
            class="loop"
            :title="isHeld(i) ? `${penName(pen)}: touch again to change it` : penName(pen)"
            :aria-pressed="isHeld(i)"
            :aria-label="penName(pen)"
            @click="touch(i, $event)"
          >
            <pen-sample :pen="pen" />
          </button>
        </vue-draggable>
      </template>
      <pen-editor @done="open = null" />
    </n-popover>
    <button
      v-for="one in WIDTHS_AT_HAND"
      :key="one.name"
      class="loop"
      :aria-pressed="pens.held === 'pen' && pens.heldPen.widthPt === widthOf(one)"
      :aria-label="`${one.name} width`"
      @click="pens.change({ widthPt: widthOf(one) })"
    >
      <span
        class="line"
        :style="{
          height: `${one.widthPt * 1.4}px`,
          background: legibleInk(pens.heldPen.color, room.color.value('sail')),
        }"
      ></span>
    </button>
    <n-popover :show="open === 'eraser'" trigger="manual" placement="right-start" @clickoutside="open = null">
      <template #trigger>
        <button
          class="loop"
          :title="pens.held === 'eraser' ? 'Eraser: touch again for its sizes' : 'Eraser'"
          :aria-pressed="pens.held === 'eraser'"
          aria-label="Eraser"
          @click="touchTool('eraser')"
        >
          <icon-eraser :size="26" stroke="1.75" />
        </button>
      </template>
      <eraser-options @done="open = null" />
    </n-popover>
    <n-popover :show="open === 'pointer'" trigger="manual" placement="right-start" @clickoutside="open = null">
      <template #trigger>
        <button
          class="loop"
          :title="pens.held === 'point' ? 'Pointer: touch again for its kinds' : 'Pointer: it leaves no ink'"
          :aria-pressed="pens.held === 'point'"
          aria-label="Pointer"
          @click="touchTool('point')"
        >
          <icon-hand-finger :size="26" stroke="1.75" />
        </button>
      </template>
      <pointer-options />
    </n-popover>
    <button
      class="loop"
      title="Take hold of things on the page"
      :aria-pressed="pens.held === 'hold'"
      aria-label="Take hold"
      @click="pickUp"
    >
      <icon-hand-grab :size="26" stroke="1.75" />
    </button>
    <button class="loop" title="Add a pen like the one held" aria-label="Add a pen" @click="pens.add()">
      <icon-plus :size="24" stroke="1.75" />
    </button>
    <button class="loop" aria-label="Undo" :disabled="!desk.canUndo" @click="desk.undo()">
      <icon-arrow-back-up :size="26" stroke="1.75" />
    </button>
    <button class="loop" aria-label="Redo" :disabled="!desk.canRedo" @click="desk.redo()">
      <icon-arrow-forward-up :size="26" stroke="1.75" />
    </button>
  </div>
</template>

<style scoped>
.roll,
.pens {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 4px;
}

.pens {
  grid-column: span 3;
}

.loop {
  display: grid;
  place-items: center;
  height: 44px;
  padding: 0;
  cursor: pointer;
  background: transparent;
  border: 2px solid transparent;
  border-radius: var(--radius);
}

.loop:hover:not(:disabled) {
  background: var(--sail-deep);
}

.loop[aria-pressed='true'] {
  background: var(--straw-pale);
  border-color: var(--straw);
}

.loop:disabled {
  opacity: 0.35;
}

.line {
  width: 26px;
  border-radius: 4px;
}

@media (max-width: 640px) {
  .roll,
  .pens {
    grid-template-rows: repeat(2, 44px);
    grid-template-columns: none;
    grid-auto-columns: max-content;
    grid-auto-flow: column;
  }

  .pens {
    grid-row: span 2;
    grid-column: auto;
  }

  .loop {
    grid-column: auto;
    width: 46px;
  }
}
</style>
