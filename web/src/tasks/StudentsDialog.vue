<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import { MOST_STUDENTS, spacedKey, type Student } from '@kite-trail/core/contract/student';
import { IconCopy, IconPackageExport, IconPrinter, IconQrcode, IconRefresh, IconTrash } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { computed, onMounted, ref, shallowRef } from 'vue';
import ActionButton from '../controls/ActionButton.vue';
import { useAttempt } from '../controls/attempt';
import DialogCard from '../controls/DialogCard.vue';
import KeptText from '../controls/KeptText.vue';
import ProblemText from '../controls/ProblemText.vue';
import QrDialog from '../controls/QrDialog.vue';
import TextField from '../controls/TextField.vue';
import { dayText } from '../look/time';
import { saveUrl } from '../device/save-file';
import { studentArchiveUrl, tasksApi } from '../server/tasks';
import { printSlips } from './slips';

/** Who is in a class: names, and the private link by which each comes in. */
const { schoolClass } = defineProps<{ schoolClass: SchoolClass }>();
const emit = defineEmits<{ close: [] }>();

const students = shallowRef<readonly Student[] | null>(null);
const typed = ref('');
const names = computed(() => typed.value.split('\n').flatMap((line) => line.trim() || []));
const shown = shallowRef<Student | null>(null);
/** What is to be done to somebody once that is sure. */
const asked = shallowRef<{ what: 'renew' | 'drop'; student: Student } | null>(null);
const copied = ref<string | null>(null);
const { problem, attempt } = useAttempt();

const load = async () => (students.value = await tasksApi.students(schoolClass.id));
onMounted(() => attempt(load));

const linkOf = ({ key }: Student) => `${location.origin}/student/in/${key}`;

const add = () =>
  attempt(async () => {
    students.value = await tasksApi.addStudents(schoolClass.id, names.value);
    typed.value = '';
  });

const rename = ({ id }: Student, name: string) =>
  attempt(async () => {
    await tasksApi.renameStudent(id, name);
    await load();
  });

const copy = (student: Student) =>
  attempt(async () => {
    await navigator.clipboard.writeText(linkOf(student));
    copied.value = student.id;
  });

const print = () => attempt(() => printSlips(schoolClass.name, students.value!, linkOf));

const doAsked = () =>
  attempt(async () => {
    const { what, student } = asked.value!;
    asked.value = null;
    await (what === 'renew' ? tasksApi.renewKey(student.id) : tasksApi.dropStudent(student.id));
    await load();
  });
</script>

<template>
  <dialog-card
    :show="true"
    :title="`Students of ${schoolClass.name}`"
    style="max-width: 46rem"
    @update:show="emit('close')"
  >
    <p class="note">
      A name you choose is all that is kept of them. Each comes in by a link of their own: no account, no mail address.
    </p>
    <table v-if="students?.length" class="students">
      <thead>
        <tr>
          <th scope="col">Name</th>
          <th scope="col">Key</th>
          <th scope="col">Last here</th>
          <th scope="col"><span class="visually-hidden">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="student in students" :key="student.id">
          <td>
            <kept-text
              class="name"
              :value="student.name"
              :aria-label="`Name of ${student.name}`"
              maxlength="60"
              dir="auto"
              @keep="rename(student, $event)"
            />
          </td>
          <td class="key">{{ spacedKey(student.key) }}</td>
          <td>{{ student.seenAt ? dayText(student.seenAt) : 'never' }}</td>
          <td class="do">
            <action-button
              :name="`Copy the link of ${student.name}`"
              :title="copied === student.id ? 'Copied' : 'Copy the link'"
              :icon="IconCopy"
              :pressed="copied === student.id"
              @click="copy(student)"
            />
            <action-button
              :name="`QR code of ${student.name}`"
              title="QR code"
              :icon="IconQrcode"
              @click="shown = student"
            />
            <action-button
              :name="`Take out all of ${student.name}`"
              title="Take out all of their work"
              :icon="IconPackageExport"
              @click="saveUrl(studentArchiveUrl(student.id))"
            />
            <action-button
              :name="`New key for ${student.name}`"
              title="New key"
              :icon="IconRefresh"
              @click="asked = { what: 'renew', student }"
            />
            <action-button
              :name="`Delete ${student.name}`"
              title="Delete"
              :icon="IconTrash"
              @click="asked = { what: 'drop', student }"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <form class="add" @submit.prevent="add">
      <text-field
        v-model="typed"
        label="Add names, one on each line"
        :rows="3"
        :most="61 * MOST_STUDENTS"
        placeholder=""
      />
      <n-button type="primary" size="large" attr-type="submit" :disabled="names.length === 0">
        {{ names.length > 1 ? `Add ${names.length} names` : 'Add' }}
      </n-button>
    </form>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <template v-if="students?.length" #footer>
      <n-button size="large" @click="print">
        <template #icon><icon-printer :size="20" /></template>Print slips with links
      </n-button>
    </template>
  </dialog-card>
  <qr-dialog v-if="shown" :address="linkOf(shown)" :name="shown.name" @close="shown = null" />
  <dialog-card
    v-if="asked"
    :show="true"
    :title="asked.what === 'renew' ? `A new key for ${asked.student.name}?` : `Delete ${asked.student.name}?`"
    style="max-width: 28rem"
    @update:show="asked = null"
  >
    <p v-if="asked.what === 'renew'">
      The link and key they have lead nowhere any more, on no device. What they made stays theirs.
    </p>
    <p v-else>
      All they made, handed in and got back goes for good, with their name. What you laid on pages of your own stays
      there.
    </p>
    <template #footer>
      <n-button @click="asked = null">Leave it</n-button>
      <n-button :type="asked.what === 'renew' ? 'primary' : 'error'" @click="doAsked">
        {{ asked.what === 'renew' ? 'Make a new key' : 'Delete for good' }}
      </n-button>
    </template>
  </dialog-card>
</template>

<style scoped>
.note {
  margin: 0 0 1rem;
  color: var(--ink-soft);
}

.students {
  width: 100%;
  margin-bottom: 1rem;
  border-collapse: collapse;
}

th,
td {
  padding: 0.2rem 0.5rem 0.2rem 0;
  text-align: start;
  border-bottom: 1px solid var(--line);
}

th {
  font-weight: 600;
  color: var(--ink-soft);
}

.name {
  width: 100%;
  min-height: 40px;
  font: inherit;
  font-weight: 650;
  color: inherit;
  background: transparent;
  border: 1px solid transparent;
  border-radius: 8px;
}

.name:hover,
.name:focus {
  border-color: var(--line);
}

.key {
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}

.do {
  text-align: end;
  white-space: nowrap;
}

.add {
  display: grid;
  gap: 0.7rem;
  justify-items: end;
}

.add > :first-child {
  width: 100%;
}

@media (max-width: 640px) {
  .students,
  tbody,
  tr,
  td {
    display: block;
  }

  thead {
    display: none;
  }

  td {
    border: 0;
  }
}
</style>
