<script setup lang="ts">
import { PAGES_A_SHEET, type HandoutSettings } from '@kite-trail/core/handout/settings';
import { NButton, NCheckbox } from 'naive-ui';
import { computed, reactive } from 'vue';
import ProblemText from '../../controls/ProblemText.vue';
import { useAttempt } from '../../controls/attempt';
import DialogCard from '../../controls/DialogCard.vue';
import RadioField from '../../controls/RadioField.vue';
import { useLesson } from '../../lesson/lesson';
import { useHandouts } from './handouts';

/** What a hand-out is like. What is chosen is kept on this device, and with one touch the next one is like it. */
const emit = defineEmits<{ close: [] }>();

const lesson = useLesson();
const handouts = useHandouts();
const { problem, attempt } = useAttempt();
const settings = reactive<HandoutSettings>({ ...handouts.settings });

const MOMENTS = [
  { value: 'end', label: 'All pages, as they end' },
  { value: 'chapters', label: 'A page for each chapter' },
  { value: 'steps', label: 'Step by step, as they were written' },
] as const;
const INK = [
  { value: 'with', label: 'With what I wrote' },
  { value: 'without', label: 'To fill in, as I prepared them' },
  { value: 'both', label: 'To fill in, and an answer key' },
] as const;
const hasCaptions = computed(() => lesson.edition.captions.length > 0);
const beside = computed(() => [
  { value: 'nothing' as const, label: 'Nothing' },
  { value: 'lines' as const, label: 'Lines for notes' },
  {
    value: 'words' as const,
    label: `What I say${hasCaptions.value ? '' : ' (once there are captions)'}`,
    disabled: !hasCaptions.value,
  },
]);
const SIZES = [
  { value: 'a4', label: 'A4' },
  { value: 'letter', label: 'Letter' },
] as const;
const counts = PAGES_A_SHEET.map((one) => ({ value: String(one), label: String(one) }));
const perSheet = computed({
  get: () => String(settings.perSheet),
  set: (value) => (settings.perSheet = PAGES_A_SHEET.find((one) => String(one) === value)!),
});

async function make() {
  handouts.settings = { ...settings };
  if (await attempt(async () => handouts.make({ ...settings }))) emit('close');
}
</script>

<template>
  <dialog-card
    :show="true"
    title="A hand-out the way you want it"
    style="max-width: 40rem"
    @update:show="emit('close')"
  >
    <form class="form" @submit.prevent="make">
      <fieldset>
        <legend>Pages</legend>
        <radio-field v-model="settings.moments" label="Pages" :options="MOMENTS" is-column />
      </fieldset>
      <fieldset>
        <legend>Ink</legend>
        <radio-field v-model="settings.ink" label="Ink" :options="INK" is-column />
      </fieldset>
      <fieldset>
        <legend>Pages on a sheet</legend>
        <radio-field v-model="perSheet" label="Pages on a sheet" :options="counts" />
      </fieldset>
      <fieldset>
        <legend>Paper</legend>
        <radio-field v-model="settings.size" label="Paper" :options="SIZES" />
      </fieldset>
      <fieldset class="wide">
        <legend>Beside them</legend>
        <radio-field v-model="settings.beside" label="Beside them" :options="beside" />
        <n-checkbox v-model:checked="settings.hasNumbers">Which page it is</n-checkbox>
        <n-checkbox v-model:checked="settings.hasCodes">
          A code that leads to its moment{{ lesson.document!.link ? '' : ' (once there is a watch link)' }}
        </n-checkbox>
      </fieldset>
      <problem-text v-if="problem" class="wide">{{ problem }}</problem-text>
      <div class="wide ends">
        <n-button size="large" @click="emit('close')">Cancel</n-button>
        <n-button size="large" type="primary" attr-type="submit">Make this hand-out</n-button>
      </div>
    </form>
  </dialog-card>
</template>

<style scoped src="../dialog-form.css"></style>
