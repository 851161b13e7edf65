<script setup lang="ts">
import type { DriveFolder } from '@kite-trail/core/contract/drive';
import { IconChevronRight, IconFile, IconFolder } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, ref, shallowRef, watch } from 'vue';
import { useAttempt } from '../controls/attempt';
import DialogCard from '../controls/DialogCard.vue';
import ProblemText from '../controls/ProblemText.vue';
import SelectField from '../controls/SelectField.vue';
import { sizeText } from '../look/size';
import { dayText } from '../look/time';
import { driveApi, driveFileUrl } from '../server/drives';
import DriveSignIn from './DriveSignIn.vue';
import { useDrives } from './drives';

/** What lies on the school's drives: to put a file there, or to fetch one. */
const drives = useDrives();
const { problem, attempt } = useAttempt();

const chosen = ref(drives.all!.find(({ id }) => id === drives.lastPlace?.drive)?.id ?? drives.all![0].id);
const drive = computed(() => drives.all!.find(({ id }) => id === chosen.value)!);
const path = shallowRef(drives.lastPath(drive.value));
const folder = shallowRef<DriveFolder | null>(null);
const isOpen = computed(() => drive.value.userName !== null);
const file = computed(() => drives.asked!.file);
const title = computed(() => (file.value ? `Put “${file.value.name}” on a drive` : 'Shared drive'));
/** Where one is, from the drive itself on. */
const places = computed(() => [
  { name: drive.value.name, path: [] },
  ...path.value.map((name, n) => ({ name, path: path.value.slice(0, n + 1) })),
]);

async function goTo(to: string[]) {
  path.value = to;
  folder.value = null;
  const from = chosen.value;
  await attempt(async () => {
    const found = await driveApi.folder(from, to);
    // Whoever has gone on meanwhile sees where they are now.
    if (path.value === to && chosen.value === from) folder.value = found;
  });
}

if (isOpen.value) void goTo(path.value);
watch([chosen, isOpen], () => isOpen.value && goTo([]));

function put() {
  const { of, file: sent } = drives.asked!;
  void drives.send(of, sent!, drive.value, path.value);
  close();
}

const close = () => (drives.asked = null);
</script>

<template>
  <dialog-card show :title="title" style="width: min(36rem, 96vw)" @update:show="close">
    <div class="drive">
      <select-field
        v-if="drives.all!.length > 1"
        v-model="chosen"
        label="Drive"
        :options="drives.all!.map(({ id, name }) => ({ value: id, label: name }))"
      />
      <drive-sign-in v-if="!isOpen" :key="chosen" :drive />
      <template v-else>
        <nav class="places" aria-label="Folders">
          <template v-for="(place, n) in places" :key="n">
            <icon-chevron-right v-if="n > 0" :size="18" aria-hidden="true" />
            <strong v-if="n === places.length - 1" class="here" dir="auto">{{ place.name }}</strong>
            <n-button v-else quaternary @click="goTo(place.path)">
              <span dir="auto">{{ place.name }}</span>
            </n-button>
          </template>
        </nav>
        <problem-text v-if="problem">{{ problem }}</problem-text>
        <p v-else-if="!folder" class="note" role="status">Looking…</p>
        <template v-else>
          <p v-if="folder.entries.length === 0" class="note">Nothing lies here yet.</p>
          <ul v-else class="list" aria-label="In this folder">
            <li v-for="one in folder.entries" :key="one.name">
              <button v-if="one.isFolder" type="button" class="entry" @click="goTo([...path, one.name])">
                <icon-folder :size="22" aria-hidden="true" /><span class="name" dir="auto">{{ one.name }}</span>
              </button>
              <component
                :is="file ? 'span' : 'a'"
                v-else
                class="entry"
                :class="{ quiet: file }"
                :href="file ? undefined : driveFileUrl(drive.id, [...path, one.name])"
                :download="file ? undefined : one.name"
              >
                <icon-file :size="22" aria-hidden="true" /><span class="name" dir="auto">{{ one.name }}</span>
                <span class="about">
                  {{ [one.changedAt && dayText(one.changedAt), sizeText(one.sizeBytes)].filter(Boolean).join(' · ') }}
                </span>
              </component>
            </li>
          </ul>
          <p v-if="!folder.isWhole" class="note">There is more in this folder than is shown.</p>
        </template>
      </template>
    </div>
    <template v-if="isOpen" #footer>
      <n-button quaternary class="forget" @click="attempt(() => drives.forget(drive.id))">
        Forget my password
      </n-button>
      <n-button @click="close">{{ file ? 'Cancel' : 'Close' }}</n-button>
      <n-button v-if="file" type="primary" :disabled="!folder" @click="put">Put it here</n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.drive {
  display: grid;
  gap: 0.75rem;
}

.places {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
}

.here {
  padding: 0.4rem 0.5rem;
}

.list {
  max-height: 45vh;
  padding: 0;
  margin: 0;
  overflow: auto;
  list-style: none;
  border: 1px solid var(--line);
  border-radius: var(--radius);
}

.list li + li {
  border-top: 1px solid var(--line);
}

.entry {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 0.6rem;
  align-items: center;
  width: 100%;
  min-height: 44px;
  padding: 0.4rem 0.75rem;
  font: inherit;
  color: inherit;
  text-align: start;
  text-decoration: none;
  background: none;
  border: 0;
}

button.entry,
a.entry {
  cursor: pointer;
}

button.entry:hover,
a.entry:hover {
  background: var(--ground);
}

.quiet,
.about,
.note {
  color: var(--ink-soft);
}

.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.about {
  font-variant-numeric: tabular-nums;
}

.note {
  margin: 0;
}

.forget {
  margin-inline-end: auto;
}
</style>
