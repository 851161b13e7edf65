<script setup lang="ts">
import {
  IconArrowBarToUp,
  IconDownload,
  IconFolderDown,
  IconMovie,
  IconPlayerPause,
  IconPlayerPlay,
  IconPrinter,
  IconRefresh,
  IconServer,
  IconShare2,
  IconX,
} from '@tabler/icons-vue';
import { computed, onMounted, ref, type Component } from 'vue';
import ActionButton from '../controls/ActionButton.vue';
import { useAttempt } from '../controls/attempt';
import ProblemText from '../controls/ProblemText.vue';
import { canSaveIntoFolder, saveIntoFolder } from '../device/kept-folder';
import WorkProgress from '../controls/WorkProgress.vue';
import { useDrives } from '../drives/drives';
import { useMakings, type Making } from './makings';

/** Something that is being made, or was: how far it is, and what can be done with it. */
const { making } = defineProps<{ making: Making }>();
const makings = useMakings();
const drives = useDrives();
onMounted(drives.load);
const { problem, attempt } = useAttempt();

const MINUTE = 60;
const left = computed(() => {
  const { secondsLeft } = making;
  if (secondsLeft === null) return '';
  return secondsLeft < MINUTE ? `${secondsLeft} s left` : `${Math.ceil(secondsLeft / MINUTE)} min left`;
});
const state = computed(() => {
  if (making.state === 'waiting') return 'Waiting for its turn';
  if (making.state === 'paused') return 'Paused';
  if (making.state === 'making') return makings.isStoodBack ? 'Waits while you record' : left.value || 'Being made';
  return making.problem;
});

const isNext = computed(() => makings.open.find(({ state: one }) => one === 'waiting')?.id === making.id);
/** Phones and tablets hand files on to other programs; where nothing takes such a file, nothing is offered. */
const sent = computed(() => {
  const file = making.state === 'made' ? makings.fileOf(making.id) : null;
  const data = file && { files: [file], title: file.name };
  return data && navigator.canShare?.(data) ? data : null;
});
const send = () =>
  attempt(() =>
    navigator.share(sent.value!).catch((error: Error) => {
      // Whoever changes their mind need not be told.
      if (error.name !== 'AbortError') throw error;
    }),
  );

/** Where it was put last. */
const lies = ref('');
const putIntoFolder = () =>
  attempt(async () => {
    lies.value = '';
    const put = await saveIntoFolder(makings.fileOf(making.id)!);
    if (put) lies.value = `It is in the folder “${put.folder}”, as ${put.name}.`;
  });

/** How it goes to a drive, where it does. */
const sending = computed(() => drives.sendings.get(making.id));
const isOnItsWay = computed(() => sending.value !== undefined && sending.value.told === '');

async function putAway() {
  drives.drop(making.id);
  await makings.remove(making.id);
}

interface Action {
  name: string;
  icon: Component;
  isOffered: boolean;
  act: () => unknown;
}
const actions = computed<Action[]>(() => {
  const { id, name, state: now } = making;
  const isOver = now === 'made' || now === 'failed';
  return [
    {
      // Browsers show a PDF with all that printing needs.
      name: `Open ${name} to print`,
      icon: IconPrinter,
      isOffered: now === 'made' && name.endsWith('.pdf'),
      act: () => window.open(making.url!, '_blank', 'noopener'),
    },
    {
      name: `Put ${name} into a folder`,
      icon: IconFolderDown,
      isOffered: now === 'made' && canSaveIntoFolder(),
      act: putIntoFolder,
    },
    {
      name: `Put ${name} on a shared drive`,
      icon: IconServer,
      isOffered: now === 'made' && drives.areThere && !isOnItsWay.value,
      act: () => (drives.asked = { of: id, file: makings.fileOf(id) }),
    },
    { name: `Send ${name} on`, icon: IconShare2, isOffered: sent.value !== null, act: send },
    {
      name: `Make ${name} next`,
      icon: IconArrowBarToUp,
      isOffered: now === 'waiting' && !isNext.value,
      act: () => makings.hurry(id),
    },
    {
      name: `Pause ${name}`,
      icon: IconPlayerPause,
      isOffered: now === 'making' || now === 'waiting',
      act: () => makings.pause(id),
    },
    { name: `Go on with ${name}`, icon: IconPlayerPlay, isOffered: now === 'paused', act: () => makings.goOn(id) },
    {
      name: `${making.instead}: ${name}`,
      icon: IconMovie,
      isOffered: now === 'failed' && making.instead !== '',
      act: () => attempt(() => makings.makeInstead(id)),
    },
    { name: `Try ${name} again`, icon: IconRefresh, isOffered: now === 'failed', act: () => makings.again(id) },
    {
      name: isOnItsWay.value ? `Do not put ${name} on the drive` : isOver ? `Put ${name} away` : `Give up ${name}`,
      icon: IconX,
      isOffered: true,
      act: isOnItsWay.value ? () => drives.drop(id) : putAway,
    },
  ].filter(({ isOffered }) => isOffered);
});
</script>

<template>
  <div class="row" :class="making.state" role="group" :aria-label="making.name">
    <a v-if="making.url" class="save" :href="making.url" :download="making.name">
      <icon-download :size="22" aria-hidden="true" /> <span dir="auto">Save {{ making.name }}</span>
    </a>
    <template v-else>
      <work-progress v-if="making.state !== 'failed'" :label="making.name" :done="making.done" />
      <span v-else class="name" dir="auto">{{ making.name }}</span>
      <span class="state" role="status">{{ state }}</span>
    </template>
    <span class="actions">
      <action-button v-for="one in actions" :key="one.name" :name="one.name" :icon="one.icon" @click="one.act" />
    </span>
    <work-progress v-if="isOnItsWay" class="below" label="On its way to the drive" :done="sending!.done" />
    <problem-text v-else-if="sending?.isProblem" class="below">{{ sending.told }}</problem-text>
    <span v-else-if="sending" class="below" role="status">{{ sending.told }}</span>
    <span v-if="lies" class="below" role="status">{{ lies }}</span>
    <problem-text v-if="problem" class="below">{{ problem }}</problem-text>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0.15rem 0.5rem;
  align-items: center;
}

.name {
  grid-column: 1;
  overflow: hidden;
  font-weight: 650;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.state {
  grid-column: 1;
  color: var(--ink-soft);
  font-variant-numeric: tabular-nums;
}

.failed .state {
  color: var(--kite-deep);
}

.below {
  grid-column: 1 / -1;
}

.actions {
  display: flex;
  grid-row: 1 / span 2;
  grid-column: 2;
}

/* What was made has a name to be read, and more that can be done with it: below, where there is no room beside it. */
.made {
  display: flex;
  flex-wrap: wrap;
}

.made .actions {
  margin-inline-start: auto;
}

.made .below {
  flex-basis: 100%;
}

.save {
  display: flex;
  gap: 0.5rem;
  flex: 1 1 12rem;
  align-items: center;
  min-height: 44px;
  padding: 0.5rem 0.9rem;
  font-weight: 650;
  color: var(--on-tail);
  text-decoration: none;
  overflow-wrap: anywhere;
  background: var(--tail);
  border-radius: var(--radius);
}
</style>
