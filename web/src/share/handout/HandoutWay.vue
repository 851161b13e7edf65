<script setup lang="ts">
import { IconAdjustments, IconPrinter } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { ref } from 'vue';
import ProblemText from '../../controls/ProblemText.vue';
import { useAttempt } from '../../controls/attempt';
import { useLesson } from '../../lesson/lesson';
import MakingList from '../../making/MakingList.vue';
import { useMakings } from '../../making/makings';
import HandoutDialog from './HandoutDialog.vue';
import { HANDOUT, useHandouts } from './handouts';

/** The pages on paper: as the last hand-out was, with one touch, or as it is wanted now. */
const lesson = useLesson();
const makings = useMakings();
const handouts = useHandouts();
const { problem, attempt } = useAttempt();
const isOpen = ref(false);
const make = () => attempt(async () => handouts.make(handouts.settings));
</script>

<template>
  <div class="way">
    <h2><icon-printer :size="22" /> Hand-out</h2>
    <making-list :list="makings.of(lesson.document!.id, HANDOUT)" />
    <p class="note">A PDF to print: crisp at any size, and imported pages stay as they are.</p>
    <div class="two">
      <n-button @click="make">Make a hand-out</n-button>
      <n-button quaternary aria-label="More choices for the hand-out" @click="isOpen = true">
        <template #icon><icon-adjustments /></template>More
      </n-button>
    </div>
    <problem-text v-if="problem">{{ problem }}</problem-text>
    <handout-dialog v-if="isOpen" @close="isOpen = false" />
  </div>
</template>

<style scoped src="../way.css"></style>
