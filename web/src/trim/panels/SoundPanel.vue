<script setup lang="ts">
import { recordedLoudness, TARGET_LUFS } from '@kite-trail/core/sound/mastering';
import { NSwitch } from 'naive-ui';
import { computed } from 'vue';
import { useEditing } from '../../lesson/edition/editing';
import { useLesson } from '../../lesson/lesson';
import { useVoices } from '../../lesson/voices';
import SidePanel from '../../controls/SidePanel.vue';

/** How the voice is treated, in what is heard here, behind the link and in the video alike. */
const emit = defineEmits<{ close: [] }>();

const lesson = useLesson();
const editing = useEditing();
const voices = useVoices();

const sound = computed(() => lesson.edition.sound);
const measured = computed(() => (voices.isListening ? null : recordedLoudness(lesson.programme, voices.profileOfTake)));

const set = (part: Partial<typeof sound.value>) => void editing.change({ sound: { ...sound.value, ...part } });
</script>

<template>
  <side-panel name="Sound" @close="emit('close')">
    <label class="switch">
      <n-switch
        aria-label="Even loudness"
        :value="sound.isEvened"
        @update:value="(isEvened: boolean) => set({ isEvened })"
      />
      <span>
        <b>Even loudness</b>
        Quiet and loud takes come to {{ TARGET_LUFS }} LUFS from two loudspeakers, and no peak passes −1 dBTP.
      </span>
    </label>
    <label class="switch">
      <n-switch
        aria-label="Less steady noise"
        :value="sound.isQuieted"
        @update:value="(isQuieted: boolean) => set({ isQuieted })"
      />
      <span><b>Less steady noise</b> Fans, hum and hiss that go on all the time are turned down.</span>
    </label>
    <p v-if="!measured" class="note" role="status">The voice is still being listened to…</p>
    <p v-else-if="Number.isFinite(measured.lufs)" class="note">
      As it was recorded: {{ measured.lufs.toFixed(1) }} LUFS, with a range of {{ measured.rangeLu.toFixed(1) }} LU.
    </p>
    <p v-else class="note">Nobody speaks in this lesson yet.</p>
  </side-panel>
</template>

<style scoped>
.switch {
  display: flex;
  gap: 0.8rem;
  align-items: flex-start;
  padding: 0.8rem;
  cursor: pointer;
  background: var(--paper);
  border-radius: 12px;
  box-shadow: var(--shadow);
}

b {
  display: block;
}
</style>
