<script setup lang="ts">
import { NColorPicker } from 'naive-ui';

/** Chooses any colour, written like #1f2a44. */
const color = defineModel<string>({ required: true });
</script>

<template>
  <span class="field">
    <n-color-picker
      :value="color"
      :show-alpha="false"
      :modes="['hex']"
      @update:value="(value: string) => (color = value.toLowerCase().slice(0, 7))"
    />
  </span>
</template>

<style scoped>
.field {
  flex: 0 0 104px;
  width: 104px;
}
</style>
