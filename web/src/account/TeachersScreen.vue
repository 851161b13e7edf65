<script setup lang="ts">
import type { Colleague, Ticket } from '@kite-trail/core/contract/account';
import { IconUserPlus } from '@tabler/icons-vue';
import { NButton, NDropdown, NSwitch } from 'naive-ui';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { useAttempt } from '../controls/attempt';
import LinkField from '../controls/LinkField.vue';
import { momentText } from '../look/time';
import { api } from '../server/api';
import { studentsKeptApi } from '../server/tasks';
import { useSession } from '../app/session';
import AccountHead from './AccountHead.vue';
import ProblemText from '../controls/ProblemText.vue';
import DialogCard from '../controls/DialogCard.vue';

/** The school's teachers, for whoever keeps the school. */
const session = useSession();
const teachers = shallowRef<readonly Colleague[]>([]);
const { problem, attempt } = useAttempt();
/** A link that was just made, and whom it is for: `null` for somebody new. It stays while its dialog fades away. */
const made = shallowRef<{ ticket: Ticket; holder: Colleague | null } | null>(null);
const isLinkOpen = ref(false);

const address = computed(() => {
  if (!made.value) return '';
  const { ticket, holder } = made.value;
  return `${location.origin}/${holder ? 'new-password' : 'join'}#${ticket.code}`;
});

const isCounting = ref<boolean | null>(null);
const keptDays = ref<number | null>(null);
const keepDays = () => attempt(() => studentsKeptApi.keep(keptDays.value!));

onMounted(() =>
  attempt(async () => {
    teachers.value = await api.colleagues();
    isCounting.value = await api.isSchoolCounting();
    keptDays.value = await studentsKeptApi.days();
  }),
);

const count = (is: boolean) =>
  attempt(async () => {
    await api.countSchool(is);
    isCounting.value = is;
  });

const makeLink = (holder: Colleague | null) =>
  attempt(async () => {
    made.value = { ticket: await api.makeTicket(holder?.id ?? null), holder };
    isLinkOpen.value = true;
  });

const WAYS = {
  password: 'Link for a new password',
  keeper: 'Make a keeper of the school',
  'no-keeper': 'Keeper no longer',
  out: 'Shut out',
  in: 'Let in again',
} as const;
type Way = keyof typeof WAYS;

function waysWith({ isKeeper, isShutOut }: Colleague): Way[] {
  if (isShutOut) return ['in'];
  return ['password', isKeeper ? 'no-keeper' : 'keeper', 'out'];
}
const optionsFor = (colleague: Colleague) => waysWith(colleague).map((key) => ({ key, label: WAYS[key] }));

function choose(colleague: Colleague, way: Way) {
  if (way === 'password') return makeLink(colleague);
  const { isKeeper, isShutOut } = colleague;
  const changed = {
    keeper: { isKeeper: true, isShutOut },
    'no-keeper': { isKeeper: false, isShutOut },
    out: { isKeeper, isShutOut: true },
    in: { isKeeper, isShutOut: false },
  }[way];
  return attempt(async () => {
    teachers.value = await api.changeColleague(colleague.id, changed);
    // Whoever no longer keeps the school has nothing to do here.
    if (colleague.id === session.teacher?.id) await session.load();
  });
}

const standingOf = ({ isShutOut, seenAt }: Colleague) =>
  isShutOut ? 'shut out' : seenAt === null ? 'not signed in' : `last seen ${momentText(seenAt)}`;
</script>

<template>
  <main class="school">
    <account-head title="Teachers" />
    <div class="lead">
      <p>
        Whoever keeps the school lets teachers in and helps them when a password is forgotten. Their lessons are their
        own: nobody else sees them.
      </p>
      <n-button type="primary" size="large" @click="makeLink(null)">
        <template #icon><icon-user-plus /></template>
        Invite a teacher
      </n-button>
    </div>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <ul class="card" aria-label="Teachers">
      <li v-for="teacher in teachers" :key="teacher.id" :class="{ out: teacher.isShutOut }">
        <span class="who">
          <b>{{ teacher.name }}</b>
          <span class="soft">{{ teacher.email }}</span>
        </span>
        <span class="soft">{{ teacher.isKeeper ? 'keeps the school' : '' }}</span>
        <span class="soft">{{ standingOf(teacher) }}</span>
        <n-dropdown
          trigger="click"
          placement="bottom-end"
          :options="optionsFor(teacher)"
          @select="(way) => choose(teacher, way)"
        >
          <n-button :aria-label="`Change ${teacher.name}`">Change</n-button>
        </n-dropdown>
      </li>
    </ul>

    <label v-if="isCounting !== null" class="counting">
      <n-switch aria-label="Count how lessons are watched" :value="isCounting" @update:value="count" />
      <span>
        Count how lessons are watched
        <span class="soft">Sums alone, no names: teachers see them when they share; students are told.</span>
      </span>
    </label>

    <label v-if="keptDays !== null" class="kept">
      What students made goes for good
      <input
        v-model.number="keptDays"
        type="number"
        min="30"
        max="3650"
        aria-label="Days that what students made is kept"
        @change="keepDays"
      />
      days after their class has ended.
    </label>

    <dialog-card
      v-model:show="isLinkOpen"
      :title="made?.holder ? `A new password for ${made.holder.name}` : 'An invitation'"
      style="max-width: 32rem"
    >
      <p v-if="made">
        Give this link to {{ made.holder?.name ?? 'the new teacher' }} and nobody else. It can be used once, until
        {{ momentText(made.ticket.endsAt) }}, and is shown only now.
      </p>
      <div class="link"><link-field :address="address" label="Link" /></div>
    </dialog-card>
  </main>
</template>

<style scoped>
.school {
  max-width: 64rem;
  padding: 0 1.5rem 4rem;
  margin: 0 auto;
}

.lead {
  display: flex;
  flex-wrap: wrap;
  gap: 1rem 2rem;
  align-items: center;
  justify-content: space-between;
  margin-bottom: 1.25rem;
}

.lead p {
  flex: 1 1 20rem;
  max-width: 36rem;
  margin: 0;
  color: var(--ink-soft);
}

.card {
  padding: 0.5rem 1.75rem;
  margin: 0;
  list-style: none;
  background: var(--paper);
  border-radius: 16px;
  box-shadow: var(--shadow);
}

li {
  display: grid;
  grid-template-columns: minmax(0, 2fr) minmax(0, 1fr) minmax(0, 1.2fr) auto;
  gap: 1rem;
  align-items: center;
  min-height: 72px;
}

li + li {
  border-top: 1px solid var(--line);
}

.who {
  display: grid;
  overflow-wrap: anywhere;
}

.soft {
  color: var(--ink-soft);
}

.out b {
  color: var(--ink-soft);
}

.counting {
  display: flex;
  gap: 0.8rem;
  align-items: center;
  min-height: 44px;
  padding: 1.25rem 0.25rem;
}

.kept {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  align-items: center;
  padding: 0 0.25rem 1.25rem;
}

.kept input {
  width: 5.5rem;
  min-height: 44px;
  padding: 0 0.7rem;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--field-line);
  border-radius: var(--radius);
}

.counting > span {
  display: grid;
}

.link {
  display: grid;
  gap: 0.7rem;
}

@media (max-width: 640px) {
  li {
    grid-template-columns: 1fr auto;
    gap: 0.1rem 1rem;
    padding: 0.75rem 0;
  }

  .soft {
    grid-column: 1;
  }

  li :deep(.n-button) {
    grid-row: 1;
    grid-column: 2;
  }

  .card {
    padding: 0.25rem 1.1rem;
  }
}
</style>
