<script setup lang="ts">
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { shownPage, type PageState } from '@kite-trail/core/lesson/scene';
import { IconArrowBackUp, IconPlayerPlayFilled, IconTrash } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, ref } from 'vue';
import { clockText } from '../look/time';
import { useAudition } from './audition';
import { useLesson } from '../lesson/lesson';
import { useTakes, type ListedTake } from './takes';
import KeptText from '../controls/KeptText.vue';
import SidePanel from '../controls/SidePanel.vue';
import TakePicture from './TakePicture.vue';

/** Every take of the lesson: to hear, to use, to name, and to put into the bin. */
const emit = defineEmits<{ close: []; play: [] }>();

const takes = useTakes();
const lesson = useLesson();
const audition = useAudition();
const isBinOpen = ref(false);

/** The page each take ended on, as it left it. */
const pages = computed(() => {
  const found = new Map<TakeId, { state: PageState; number: number }>();
  for (const { id } of takes.listed) {
    const end = audition.alone(id)?.timeline.end;
    if (!end) continue;
    const state = shownPage(end);
    found.set(id, { state, number: end.pages.indexOf(state) + 1 });
  }
  return found;
});

const DATE = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
const dateText = (instant: string) => DATE.format(new Date(instant));

function play(take: ListedTake) {
  audition.hearTake(take.name, take.id);
  emit('play');
}

function rename(take: ListedTake, name: string) {
  void takes.attempt(takes.rename(take.id, name));
}
</script>

<template>
  <side-panel name="Takes" @close="emit('close')">
    <p v-if="!lesson.isWithServer" class="note" role="status">The newest recording is on its way to the server.</p>
    <ul class="list">
      <li v-for="take in takes.listed" :key="take.id" class="take" :class="{ plays: take.plays }">
        <button class="hear" :aria-label="`Hear ${take.name}`" @click="play(take)">
          <take-picture v-if="pages.get(take.id)" :state="pages.get(take.id)!.state" />
          <icon-player-play-filled class="sign" :size="22" />
        </button>
        <div class="about">
          <kept-text
            class="name"
            :value="take.name"
            maxlength="80"
            :aria-label="`Name of ${take.name}`"
            @keep="rename(take, $event)"
          />
          <p class="facts">
            page {{ pages.get(take.id)?.number }} · {{ clockText(take.lengthSamples)
            }}<template v-if="!take.hasSound"> · no voice</template><br />{{ dateText(take.startedAt) }}
          </p>
          <div class="row">
            <span v-if="take.plays" class="note">Plays in the trail</span>
            <n-button
              v-else
              size="small"
              :disabled="!lesson.isWithServer"
              :aria-label="`Use ${take.name}`"
              @click="takes.attempt(takes.use(take.id))"
            >
              Use
            </n-button>
            <n-button
              quaternary
              class="bin"
              :disabled="!lesson.isWithServer"
              :aria-label="`Put ${take.name} into the bin`"
              :title="take.plays ? 'Takes it out of the trail, and into the bin' : 'Into the bin'"
              @click="takes.attempt(takes.bin(take.id))"
            >
              <template #icon><icon-trash :size="20" /></template>
            </n-button>
          </div>
        </div>
      </li>
    </ul>
    <template v-if="takes.binned.length > 0">
      <n-button quaternary block :aria-expanded="isBinOpen" @click="isBinOpen = !isBinOpen">
        <template #icon><icon-trash :size="20" /></template>Bin ({{ takes.binned.length }})
      </n-button>
      <ul v-if="isBinOpen" class="list">
        <li v-for="take in takes.binned" :key="take.id" class="take">
          <span class="about">{{ take.name }} · {{ clockText(take.lengthSamples) }}</span>
          <n-button quaternary :aria-label="`Put ${take.name} back`" @click="takes.attempt(takes.putBack(take.id))">
            <template #icon><icon-arrow-back-up :size="20" /></template>Put back
          </n-button>
        </li>
      </ul>
    </template>
  </side-panel>
</template>

<style scoped>
.row,
.take {
  display: flex;
  gap: 0.7rem;
  align-items: center;
}

.list {
  display: grid;
  gap: 0.5rem;
  padding: 0;
  margin: 0;
  list-style: none;
}

.take {
  padding: 0.5rem;
  background: var(--paper);
  border: 2px solid transparent;
  border-radius: 12px;
  box-shadow: var(--shadow);
}

.plays {
  border-color: var(--tail);
}

.hear {
  position: relative;
  flex: none;
  padding: 0;
  cursor: pointer;
  background: none;
  border: 0;
}

.sign {
  position: absolute;
  right: 4px;
  bottom: 4px;
  padding: 3px;
  color: var(--on-tail);
  background: var(--tail);
  border-radius: 50%;
}

.about {
  flex: 1;
  min-width: 0;
}

.name {
  width: 100%;
  padding: 0.15rem 0.3rem;
  font: inherit;
  font-weight: 650;
  color: inherit;
  background: transparent;
  border: 1px solid transparent;
  border-radius: 6px;
}

.name:hover,
.name:focus {
  border-color: var(--line);
}

.facts,
.note {
  margin: 0;
  color: var(--ink-soft);
}

.facts {
  padding-left: 0.35rem;
  font-size: 0.95rem;
}

.row {
  justify-content: space-between;
  padding-left: 0.35rem;
}
</style>
