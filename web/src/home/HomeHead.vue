<script setup lang="ts">
import { NButton } from 'naive-ui';
import { useRouter } from 'vue-router';
import { useSession } from '../app/session';
import MakingsStatus from '../making/MakingsStatus.vue';
import ArrivalsStatus from './arriving/ArrivalsStatus.vue';
import OutboxStatus from '../set-aside/OutboxStatus.vue';

/** Whose lessons these are, and whether all that was made here has been sent. */
const session = useSession();
const router = useRouter();

async function signOut() {
  await session.signOut();
  await router.replace('/sign-in');
}
</script>

<template>
  <header class="bar">
    <router-link to="/" class="name" aria-label="Kite Trail">
      <img src="/kite.svg" alt="" /> <span class="word">Kite Trail</span>
    </router-link>
    <slot />
    <outbox-status />
    <makings-status />
    <arrivals-status />
    <router-link v-if="session.teacher?.isKeeper" to="/teachers" class="who">Teachers</router-link>
    <router-link to="/account" class="who" :aria-label="`${session.teacher?.name}: your account`">{{
      session.teacher?.name
    }}</router-link>
    <n-button quaternary @click="signOut">Sign out</n-button>
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 1rem;
  align-items: center;
  padding: 0.75rem 1.5rem;
}

.name {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  width: 13rem;
  min-height: 44px;
  font-size: 1.2rem;
  font-weight: 700;
  color: inherit;
  text-decoration: none;
}

.name img {
  width: 32px;
}

.who {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
  padding: 0 0.25rem;
  color: var(--ink-soft);
  text-decoration: none;
}

.who:hover {
  color: var(--ink);
  text-decoration: underline;
}

@media (max-width: 900px) {
  .bar {
    flex-wrap: wrap;
    gap: 0 0.25rem;
    padding: 0.5rem 0.5rem 0.5rem 1rem;
  }

  .name {
    width: auto;
    margin-right: auto;
  }

  .word {
    display: none;
  }
}
</style>
