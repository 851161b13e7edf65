<script setup lang="ts">
import { useSession } from '../app/session';

/** The way back to the lessons, and between what is about accounts. */
defineProps<{ title: string }>();
const session = useSession();
</script>

<template>
  <header class="bar">
    <router-link to="/" class="home"><img src="/kite.svg" alt="" /> Lessons</router-link>
    <nav v-if="session.teacher?.isKeeper" aria-label="Accounts">
      <router-link to="/account">Account</router-link>
      <router-link to="/teachers">Teachers</router-link>
    </nav>
  </header>
  <h1>{{ title }}</h1>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 1.5rem;
  align-items: center;
  justify-content: space-between;
  min-height: 64px;
}

nav {
  display: flex;
  gap: 0.25rem;
}

a {
  display: inline-flex;
  gap: 0.6rem;
  align-items: center;
  min-height: 44px;
  padding: 0 0.75rem;
  font-weight: 600;
  color: var(--ink-soft);
  text-decoration: none;
  white-space: nowrap;
  border-bottom: 3px solid transparent;
}

a:hover {
  color: var(--ink);
}

nav a[aria-current] {
  color: var(--ink);
  border-bottom-color: var(--straw);
}

.home {
  padding-left: 0;
}

.home img {
  width: 32px;
}

h1 {
  margin: 0.75rem 0 1.25rem;
  font-size: 2rem;
}
</style>
