<script setup lang="ts">
import { IconPlayerPauseFilled, IconPlayerPlayFilled } from '@tabler/icons-vue';
import { clockText } from '../look/time';
import SelectField from '../controls/SelectField.vue';
import { SPEEDS } from '../playback/player';
import { useListening } from './listening';
import TrailSection from './TrailSection.vue';

/** The trail, and how it is played. */
const { isTall = false } = defineProps<{ isTall?: boolean }>();
/** The button that plays was touched. */
const emit = defineEmits<{ toggle: [] }>();

const listening = useListening();
</script>

<template>
  <trail-section :size="isTall ? 'tall' : undefined" :class="{ tall: isTall }">
    <button class="play" :aria-label="listening.playing ? 'Pause' : 'Play'" @click="emit('toggle')">
      <icon-player-pause-filled v-if="listening.playing" :size="26" />
      <icon-player-play-filled v-else :size="26" />
    </button>
    <div class="where">
      <span class="clock"
        >{{ clockText(listening.samples) }}
        <span class="of">/ {{ clockText(listening.picture.trail.lengthSamples) }}</span></span
      >
      <slot name="where" />
    </div>
    <div class="strip"><slot /></div>
    <select-field
      class="speed"
      label="Speed"
      :options="SPEEDS.map((value) => ({ value, label: `${value} ×` }))"
      :model-value="listening.rate"
      @update:model-value="(rate) => listening.setRate(rate)"
    />
  </trail-section>
</template>

<style scoped>
.play {
  display: grid;
  flex: none;
  place-items: center;
  width: 56px;
  height: 56px;
  color: var(--on-tail);
  cursor: pointer;
  background: var(--tail);
  border: 0;
  border-radius: 50%;
}

.where {
  display: grid;
  flex: none;
  gap: 0.6rem;
}

.clock {
  min-width: 6.2rem;
  font-variant-numeric: tabular-nums;
  font-weight: 650;
}

.of {
  font-weight: 400;
  color: var(--ink-soft);
}

.strip {
  flex: 1;
  min-width: 0;
  height: 100%;
  margin: 0 12px;
}

.tall .strip {
  margin-right: 0;
}

.tall .speed {
  align-self: end;
}

@media (max-width: 900px) {
  .tall .where {
    display: flex;
    flex: 1;
    flex-wrap: wrap;
    align-items: center;
  }

  .tall .strip {
    flex: 1 0 100%;
    order: 1;
    height: 150px;
    margin: 0 0 0 12px;
  }
}

/* A phone held upright. */
@media (max-width: 640px) {
  .clock {
    min-width: 0;
  }

  .speed {
    display: none;
  }

  .strip {
    margin: 0 4px;
  }
}
</style>
