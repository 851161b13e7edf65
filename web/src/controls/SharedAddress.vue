<script setup lang="ts">
import { IconQrcode } from '@tabler/icons-vue';
import { NButton } from 'naive-ui';
import { ref } from 'vue';
import LinkField from './LinkField.vue';
import QrDialog from './QrDialog.vue';

/** An address that is given to many: it is copied, opened, or shown as a QR code. */
defineProps<{ address: string; label: string; /** What a file of its code is called. */ name: string }>();
const isCodeShown = ref(false);
</script>

<template>
  <link-field :address="address" :label="label">
    <n-button tag="a" :href="address" target="_blank">Open</n-button>
    <n-button @click="isCodeShown = true">
      <template #icon><icon-qrcode /></template>QR code
    </n-button>
    <slot />
  </link-field>
  <qr-dialog v-if="isCodeShown" :address="address" :name="name" @close="isCodeShown = false" />
</template>
