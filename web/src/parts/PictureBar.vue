<script setup lang="ts">
import type { Picture } from '@kite-trail/core/lesson/piece';
import {
  IconArrowsHorizontal,
  IconArrowsMaximize,
  IconArrowsVertical,
  IconCheck,
  IconCopy,
  IconCrop,
  IconFlipHorizontal,
  IconLassoPolygon,
  IconLock,
  IconLockOpen,
  IconRestore,
  IconStackPop,
  IconStackPush,
  IconTrash,
  IconX,
} from '@tabler/icons-vue';
import { computed } from 'vue';
import { useHeld } from '../stores/held';

/** What can be done with the picture that is held. */
const props = defineProps<{ picture: Picture }>();

const held = useHeld();
const isCut = computed(() => {
  const { crop, cutOut } = props.picture;
  return cutOut.length > 0 || crop.left > 0 || crop.top > 0 || crop.right < 1 || crop.bottom < 1;
});
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Picture">
    <template v-if="picture.locked">
      <button class="act named" @click="held.lock(false)"><icon-lock-open :size="22" /> Unlock</button>
    </template>
    <template v-else-if="held.doing === 'cropping'">
      <button class="act named" @click="held.crop()"><icon-check :size="22" /> Crop to this</button>
      <button class="act" aria-label="Leave as it was" @click="held.doing = 'moving'"><icon-x :size="22" /></button>
    </template>
    <template v-else>
      <button class="act" aria-label="Crop" title="Crop" @click="held.startCrop()">
        <icon-crop :size="22" />
      </button>
      <button class="act" aria-label="Cut out" title="Cut out along a line" @click="held.doing = 'cutting'">
        <icon-lasso-polygon :size="22" />
      </button>
      <button v-if="isCut" class="act" aria-label="Show all of it" title="Show all of it" @click="held.uncut()">
        <icon-restore :size="22" />
      </button>
      <button class="act" aria-label="Mirror" title="Mirror" @click="held.mirror()">
        <icon-flip-horizontal :size="22" />
      </button>
      <span class="gap"></span>
      <button class="act" aria-label="Fit the width" title="Fit the width" @click="held.fit('width')">
        <icon-arrows-horizontal :size="22" />
      </button>
      <button class="act" aria-label="Fit the height" title="Fit the height" @click="held.fit('height')">
        <icon-arrows-vertical :size="22" />
      </button>
      <button class="act" aria-label="Fit the page" title="Fit the page" @click="held.fit('page')">
        <icon-arrows-maximize :size="22" />
      </button>
      <span class="gap"></span>
      <button class="act" aria-label="Forward" title="Forward" @click="held.restack(1)">
        <icon-stack-pop :size="22" />
      </button>
      <button class="act" aria-label="Back" title="Back" @click="held.restack(-1)">
        <icon-stack-push :size="22" />
      </button>
      <label class="fade">
        <span>Fade</span>
        <input
          type="range"
          min="0.1"
          max="1"
          step="0.05"
          :value="picture.opacity"
          aria-label="Strength of the picture"
          @change="held.fade(Number(($event.target as HTMLInputElement).value))"
        />
      </label>
      <button class="act" aria-label="Duplicate" title="Duplicate" @click="held.duplicate()">
        <icon-copy :size="22" />
      </button>
      <button class="act" aria-label="Lock" title="Lock: writing never moves it" @click="held.lock(true)">
        <icon-lock :size="22" />
      </button>
      <button class="act" aria-label="Remove picture" title="Remove" @click="held.lift()">
        <icon-trash :size="22" />
      </button>
    </template>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 2px;
  align-items: center;
  justify-content: flex-end;
  width: 100%;
  overflow-x: auto;
}

.act {
  display: flex;
  flex: none;
  gap: 6px;
  align-items: center;
  justify-content: center;
  min-width: 44px;
  height: 44px;
  cursor: pointer;
  background: transparent;
  border: 0;
  border-radius: 8px;
}

.named {
  padding: 0 12px;
}

.act:hover {
  background: var(--sail-deep);
}

.gap {
  flex: none;
  width: 1px;
  height: 26px;
  margin: 0 4px;
  background: var(--line);
}

.fade {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 0 8px;
  color: var(--ink-soft);
}

.fade input {
  width: 84px;
  accent-color: var(--tail);
}
</style>
