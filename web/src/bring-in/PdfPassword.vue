<script setup lang="ts">
import { NButton, NInput } from 'naive-ui';
import { ref, watch } from 'vue';
import { useBringIn } from './bring-in';
import DialogCard from '../controls/DialogCard.vue';

/** Asks for the password of a locked PDF. */
const bringIn = useBringIn();
const password = ref('');

watch(
  () => bringIn.locked?.file,
  () => (password.value = ''),
);
</script>

<template>
  <dialog-card
    :show="bringIn.locked !== null"
    class="password"
    title="This PDF is locked"
    :mask-closable="false"
    @close="bringIn.dismiss()"
    @esc="bringIn.dismiss()"
  >
    <form class="form" @submit.prevent="bringIn.unlock(password)">
      <label for="pdf-password">Password of {{ bringIn.locked?.file.name }}</label>
      <n-input
        v-model:value="password"
        type="password"
        autofocus
        :input-props="{ id: 'pdf-password', autocomplete: 'off' }"
      />
      <p v-if="bringIn.locked?.wrong" class="wrong" role="alert">This is not its password.</p>
      <n-button type="primary" attr-type="submit" :disabled="password === ''">Open</n-button>
    </form>
  </dialog-card>
</template>

<style scoped>
.form {
  display: grid;
  gap: 10px;
}

.wrong {
  margin: 0;
  color: var(--kite-deep);
}
</style>

<style>
.password {
  width: min(420px, 94vw);
}
</style>
