<script setup lang="ts">
import type { ListedLesson } from '@kite-trail/core/contract/catalogue';
import { folded, wordsOf } from '@kite-trail/core/search/fold';
import { IconCopyPlus, IconLock, IconStar, IconStarFilled } from '@tabler/icons-vue';
import { NButton, NInput, NSkeleton } from 'naive-ui';
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useAttempt } from '../../controls/attempt';
import ProblemText from '../../controls/ProblemText.vue';
import SelectField from '../../controls/SelectField.vue';
import { clockText, spokenTime } from '../../look/time';
import { api, publishedPictureUrl, watchUrl } from '../../server/api';

/** What the teachers of the school list for one another, by subject and level. */
const ANY = '';
const router = useRouter();
const listed = ref<ListedLesson[] | null>(null);
const asked = ref('');
const subject = ref(ANY);
const level = ref(ANY);
const onlyFavourites = ref(false);
const copying = ref('');
const { problem, attempt } = useAttempt();

onMounted(() => attempt(async () => (listed.value = await api.catalogue())));

const choicesOf = (of: 'subject' | 'level', any: string) => [
  { value: ANY, label: any },
  ...[...new Set((listed.value ?? []).map(({ about }) => about[of]))]
    .filter(Boolean)
    .sort()
    .map((value) => ({ value, label: value })),
];
const words = computed(() => wordsOf(asked.value));
const shown = computed(() =>
  (listed.value ?? []).filter(({ title, teacher, about, isFavourite }) => {
    const text = folded([title, teacher, about.description, about.subject, about.level, ...about.tags].join(' '));
    return (
      words.value.every((word) => text.includes(word)) &&
      (subject.value === ANY || about.subject === subject.value) &&
      (level.value === ANY || about.level === level.value) &&
      (!onlyFavourites.value || isFavourite)
    );
  }),
);

const favour = (one: ListedLesson) =>
  attempt(async () => {
    await api.favourListed(one.token, !one.isFavourite);
    one.isFavourite = !one.isFavourite;
  });

async function copy(one: ListedLesson) {
  copying.value = one.token;
  await attempt(async () => {
    const made = await api.copyListed(one.token);
    await router.push({ name: 'lesson', params: { lessonId: made.id } });
  });
  copying.value = '';
}

const factsOf = ({ about }: ListedLesson) =>
  [about.subject, about.level, about.licence === 'reserved' ? '' : about.licence].filter(Boolean);
</script>

<template>
  <div class="head">
    <h1>Catalogue</h1>
    <p class="hint">What the school’s teachers share with one another.</p>
    <span class="room"></span>
    <n-input
      v-model:value="asked"
      class="search"
      size="large"
      clearable
      placeholder="Find in the catalogue"
      :input-props="{ type: 'search', 'aria-label': 'Find in the catalogue', dir: 'auto' }"
    />
    <select-field v-model="subject" class="choice" label="Subject" :options="choicesOf('subject', 'All subjects')" />
    <select-field v-model="level" class="choice" label="Level" :options="choicesOf('level', 'All levels')" />
    <n-button size="large" :aria-pressed="onlyFavourites" @click="onlyFavourites = !onlyFavourites">
      <template #icon><icon-star-filled v-if="onlyFavourites" /><icon-star v-else /></template>
      Favourites
    </n-button>
  </div>
  <problem-text v-if="problem">{{ problem }}</problem-text>
  <n-skeleton v-if="!listed && !problem" :height="200" />
  <p v-else-if="listed?.length === 0" class="none">
    Nothing is listed yet. A lesson comes here by a link: Share, then “All links and their rules”.
  </p>
  <p v-else-if="listed && shown.length === 0" class="none">Nothing here is like that.</p>
  <ul class="grid">
    <li v-for="one in shown" :key="one.token" class="card">
      <a :href="watchUrl(one.token)" target="_blank" class="lesson">
        <img
          v-if="one.publication"
          class="picture"
          :src="publishedPictureUrl(one.token, one.publication)"
          alt=""
          loading="lazy"
        />
        <span v-else class="picture locked"><icon-lock :size="32" /></span>
        <span class="title" dir="auto">{{ one.title }}</span>
        <span class="facts">
          <span :aria-label="spokenTime(one.lengthSamples)">{{ clockText(one.lengthSamples) }}</span>
          <span dir="auto">{{ one.isOwn ? 'yours' : one.teacher }}</span>
          <span v-for="fact in factsOf(one)" :key="fact" dir="auto">{{ fact }}</span>
        </span>
        <span v-if="one.about.description" class="about" dir="auto">{{ one.about.description }}</span>
      </a>
      <div class="ways">
        <n-button v-if="one.mayCopy && !one.isOwn" :loading="copying === one.token" @click="copy(one)">
          <template #icon><icon-copy-plus /></template>Copy into mine
        </n-button>
        <n-button
          quaternary
          circle
          :aria-label="`${one.title}: a favourite`"
          :aria-pressed="one.isFavourite"
          @click="favour(one)"
        >
          <template #icon><icon-star-filled v-if="one.isFavourite" class="is" /><icon-star v-else /></template>
        </n-button>
      </div>
    </li>
  </ul>
</template>

<style scoped src="../lesson-grid.css"></style>
<style scoped src="../lesson-tile.css"></style>
<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 0.8rem;
  align-items: center;
  margin-bottom: 1rem;
}

h1 {
  margin: 0;
  font-size: 1.8rem;
}

.hint,
.none {
  margin: 0;
  color: var(--ink-soft);
}

/* Below all there is to choose by. */
.hint {
  order: 1;
  width: 100%;
}

.none {
  padding: 3rem 0;
  text-align: center;
}

.room {
  flex: 1;
}

.search {
  width: 16rem;
}

.choice {
  width: 10rem;
}

.card {
  display: flex;
  flex-direction: column;
  overflow: hidden;
  background: var(--paper);
  border-radius: 14px;
  box-shadow: var(--shadow);
}

.lesson {
  flex: 1;
}

.locked {
  display: grid;
  place-items: center;
  color: var(--ink-faint);
}

.about {
  display: -webkit-box;
  padding: 0.25rem 1rem 0;
  overflow: hidden;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 3;
}

.ways {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  justify-content: flex-end;
  padding: 0.5rem;
}

.is {
  color: var(--straw-deep);
}

@media (max-width: 640px) {
  .search,
  .choice {
    width: 100%;
  }
}
</style>
