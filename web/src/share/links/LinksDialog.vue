<script setup lang="ts">
import type { SchoolClass } from '@kite-trail/core/contract/class';
import type { Link } from '@kite-trail/core/contract/link';
import { IconAdjustments, IconCheck, IconCopy, IconMail, IconPlus, IconQrcode, IconUnlink } from '@tabler/icons-vue';
import { NButton, NPopconfirm } from 'naive-ui';
import { computed, ref } from 'vue';
import DialogCard from '../../controls/DialogCard.vue';
import ProblemText from '../../controls/ProblemText.vue';
import WorkProgress from '../../controls/WorkProgress.vue';
import { useLesson } from '../../lesson/lesson';
import { clockText } from '../../look/time';
import { watchUrl } from '../../server/api';
import MailDialog from '../mail/MailDialog.vue';
import { useSharing } from '../sharing';
import { lastWatchedInWords, rulesInWords, stateInWords } from './link-words';
import LinkRules from './LinkRules.vue';
import QrDialog from '../../controls/QrDialog.vue';

/** All of a lesson's links: how each stands, and its rules, changed where it stands. */
const { classes } = defineProps<{ classes: readonly SchoolClass[] }>();
const emit = defineEmits<{ close: [] }>();

const NEW = 'new';
const COPIED_FOR_MS = 2000;

const lesson = useLesson();
const sharing = useSharing();
/** The link whose rules are open, or `NEW`. */
const open = ref<string | null>(null);
const copied = ref<string | null>(null);
const shownAsCode = ref<Link | null>(null);
const mailed = ref<Link | null>(null);
const showsPast = ref(false);

const now = computed(() => (sharing.links ?? []).filter(({ state }) => state === 'live'));
const past = computed(() => (sharing.links ?? []).filter(({ state }) => state !== 'live'));
const shown = computed(() => (showsPast.value ? [...now.value, ...past.value] : now.value));
const classNamed = (id: string | null) => classes.find((one) => one.id === id)?.name;
const nameOf = ({ settings, part }: Link) =>
  settings.name || classNamed(settings.schoolClass) || (part ? 'A part' : 'The lesson');
/** What another site writes into its page. */
function embedOf({ token }: Link): string {
  const frame = document.createElement('iframe');
  Object.assign(frame, { src: watchUrl(token), title: lesson.document!.title, width: '800', height: '600' });
  frame.allow = 'fullscreen; autoplay';
  return frame.outerHTML;
}

async function copy(what: string, text: string) {
  await navigator.clipboard.writeText(text);
  copied.value = what;
  setTimeout(() => (copied.value = null), COPIED_FOR_MS);
}

async function keep(one: Link | null, ...[settings, passcode, part]: Parameters<KeepRules>) {
  const isDone = one
    ? await sharing.change(one.token, { settings }, passcode)
    : await sharing.make({ settings, part: part && [...part] }, passcode ?? '');
  if (isDone) open.value = null;
}
type KeepRules = NonNullable<InstanceType<typeof LinkRules>['$props']['onKeep']>;
</script>

<template>
  <dialog-card :show="true" title="Links to this lesson" style="max-width: 58rem" @update:show="emit('close')">
    <problem-text v-if="sharing.problem">{{ sharing.problem }}</problem-text>
    <work-progress v-if="sharing.progress !== null" label="Sharing" :done="sharing.progress" />
    <div v-if="open === NEW" class="rules">
      <link-rules
        :link="null"
        :classes="classes"
        :is-busy="sharing.progress !== null"
        @close="open = null"
        @keep="(...said) => keep(null, ...said)"
      />
    </div>
    <n-button v-else size="large" @click="open = NEW">
      <template #icon><icon-plus /></template>Another link
    </n-button>
    <table class="links">
      <thead>
        <tr>
          <th scope="col">Link</th>
          <th scope="col">State</th>
          <th scope="col">Last watched</th>
          <th scope="col"><span class="visually-hidden">What to do</span></th>
        </tr>
      </thead>
      <tbody v-for="one in shown" :key="one.token">
        <tr :class="{ past: one.state !== 'live' }">
          <th scope="row">
            <span dir="auto">{{ nameOf(one) }}</span>
            <span class="rules-said">
              {{
                [clockText(one.lengthSamples), ...rulesInWords(one, classNamed(one.settings.schoolClass))].join(' · ')
              }}
            </span>
          </th>
          <td>{{ stateInWords(one) }}</td>
          <td>{{ lastWatchedInWords(one) }}</td>
          <td class="ways">
            <template v-if="one.state !== 'withdrawn'">
              <n-button quaternary :aria-label="`Copy ${nameOf(one)}`" @click="copy(one.token, watchUrl(one.token))">
                <template #icon><icon-check v-if="copied === one.token" /><icon-copy v-else /></template>
              </n-button>
              <n-button quaternary :aria-label="`QR code of ${nameOf(one)}`" @click="shownAsCode = one">
                <template #icon><icon-qrcode /></template>
              </n-button>
              <n-button
                v-if="one.state === 'live'"
                quaternary
                :aria-label="`Send ${nameOf(one)} by mail`"
                @click="mailed = one"
              >
                <template #icon><icon-mail /></template>
              </n-button>
              <n-button
                quaternary
                :aria-label="`Rules of ${nameOf(one)}`"
                :aria-expanded="open === one.token"
                @click="open = open === one.token ? null : one.token"
              >
                <template #icon><icon-adjustments /></template>
              </n-button>
              <n-popconfirm
                positive-text="Withdraw it"
                negative-text="Keep it"
                placement="bottom-end"
                :positive-button-props="{ size: 'large', type: 'default' }"
                :negative-button-props="{ size: 'large', type: 'primary', ghost: false }"
                @positive-click="sharing.withdraw(one.token)"
              >
                <template #trigger>
                  <n-button quaternary :aria-label="`Withdraw ${nameOf(one)}`">
                    <template #icon><icon-unlink /></template>
                  </n-button>
                </template>
                <p class="asked">Students can no longer watch by it, and its address cannot be given back.</p>
              </n-popconfirm>
            </template>
          </td>
        </tr>
        <tr v-if="open === one.token">
          <td colspan="4" class="rules">
            <link-rules
              :link="one"
              :classes="classes"
              :is-busy="false"
              @close="open = null"
              @keep="(...said) => keep(one, ...said)"
            />
            <p v-if="one.settings.sites.length > 0" class="embed">
              <code>{{ embedOf(one) }}</code>
              <n-button @click="copy(`embed ${one.token}`, embedOf(one))">
                {{ copied === `embed ${one.token}` ? 'Copied' : 'Copy for a page' }}
              </n-button>
            </p>
          </td>
        </tr>
      </tbody>
    </table>
    <n-button v-if="past.length > 0" quaternary @click="showsPast = !showsPast">
      {{ showsPast ? 'Hide' : 'Show' }} {{ past.length === 1 ? '1 that has ended' : `${past.length} that have ended` }}
    </n-button>
  </dialog-card>
  <mail-dialog v-if="mailed" :token="mailed.token" @close="mailed = null" />
  <qr-dialog
    v-if="shownAsCode"
    :address="watchUrl(shownAsCode.token)"
    :name="lesson.document!.title"
    @close="shownAsCode = null"
  />
</template>

<style scoped>
.links {
  width: 100%;
  margin: 1rem 0 0.5rem;
  border-collapse: collapse;
}

th,
td {
  padding: 0.6rem 0.5rem;
  text-align: left;
  vertical-align: middle;
  border-bottom: 1px solid var(--line);
}

.links > * > tr > :nth-child(3) {
  white-space: nowrap;
}

thead th {
  font-size: 0.9rem;
  font-weight: 400;
  color: var(--ink-soft);
}

.rules-said {
  display: block;
  font-weight: 400;
  color: var(--ink-soft);
}

.past {
  color: var(--ink-soft);
}

.ways {
  text-align: right;
  white-space: nowrap;
}

.rules {
  padding: 1rem;
  background: var(--sail);
  border-radius: 12px;
}

.embed {
  display: flex;
  gap: 0.75rem;
  align-items: center;
  margin: 1rem 0 0;
  overflow-wrap: anywhere;
}

.asked {
  max-width: 20rem;
  margin: 0;
}

@media (max-width: 640px) {
  .links td:nth-child(3),
  .links th:nth-child(3) {
    display: none;
  }
}
</style>
