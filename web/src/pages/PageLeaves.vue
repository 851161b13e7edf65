<script setup lang="ts">
import type { PageId } from '@kite-trail/core/lesson/ids';
import type { PageState, Scene } from '@kite-trail/core/lesson/scene';
import { IconDots, IconPlus } from '@tabler/icons-vue';
import { NButton, NDropdown } from 'naive-ui';
import { computed, nextTick, ref, shallowRef, watch } from 'vue';
import { VueDraggable } from 'vue-draggable-plus';
import { painted } from '../device/painted';
import { useDress } from '../lesson/frame/dress';
import { useLesson } from '../lesson/lesson';
import { useNotices } from '../lesson/notices';
import { usePages } from './pages';
import { useTemplates } from './templates';
import PageLeaf from './PageLeaf.vue';
import PageTurner from './PageTurner.vue';
import { useResizeObserver } from '@vueuse/core';

/** The pages as small pictures: touch one to turn to it, drag it to another place. */
const props = defineProps<{ scene: Scene; canChange: boolean }>();
const emit = defineEmits<{ turn: [page: PageId] }>();

/** Leaves that are laid out in one frame. */
const AT_ONCE = 8;

const pages = usePages();
const templates = useTemplates();
const dress = useDress();
/** Templates, and what stands for a lesson, are a teacher's own. */
const hasTemplates = computed(() => dress.now.wearer !== 'student');
const lesson = useLesson();
const problem = useNotices().place('problem');
/** What the list shows while a leaf is being dragged runs ahead of the lesson. */
const order = shallowRef<PageState[]>([]);
const list = ref<HTMLElement>();
const menu = ref<{ x: number; y: number; at: number } | null>(null);

watch(
  () => props.scene.pages,
  (states) => {
    const before = new Map(order.value.map((state) => [state.page, state]));
    order.value = states.slice(0, Math.max(order.value.length, AT_ONCE)).map((state) => {
      const known = before.get(state.page);
      return known && isPaintedAlike(known, state) ? known : state;
    });
    growList();
  },
  { immediate: true },
);

/** Every edit of the trail makes the pages anew, mostly of the pieces they had before; their leaves need not be. */
function isPaintedAlike({ pieces }: PageState, { pieces: others }: PageState): boolean {
  return pieces === others || (pieces.length === others.length && pieces.every((piece, i) => piece === others[i]));
}

/** A long list is laid out over several frames, so that none of them is missed. */
function growList() {
  const { pages: states } = props.scene;
  if (order.value.length >= states.length) return;
  requestAnimationFrame(() => {
    order.value = props.scene.pages.slice(0, order.value.length + AT_ONCE);
    growList();
  });
}

/** The leaf of the page that is shown stays in view. To scroll at once would lay the window out in the middle of an edit. */
function followShown() {
  void painted().then(() => {
    const leaf = list.value?.querySelector(`[data-page="${props.scene.shown}"]`);
    if (!list.value || !leaf) return;
    // The list alone is scrolled: on a phone, what stands beside it, such as Record, stays in sight.
    const [seen, at] = [list.value.getBoundingClientRect(), leaf.getBoundingClientRect()];
    if (at.top < seen.top) list.value.scrollTop += at.top - seen.top;
    else if (at.bottom > seen.bottom) list.value.scrollTop += at.bottom - seen.bottom;
  });
}
watch(() => props.scene.shown, followShown);
// A tablet that is turned lays the leaves out anew.
useResizeObserver(list, () => followShown());

const shownNumber = computed(() => props.scene.pages.findIndex(({ page }) => page.id === props.scene.shown) + 1);
const goTo = (number: number) => emit('turn', props.scene.pages[number - 1].page.id);

const MENU = [
  { label: 'Add a blank page after it', key: 'add' },
  { label: 'Duplicate with ink', key: 'duplicate' },
  { label: 'Duplicate without ink', key: 'duplicate-bare' },
  { label: 'Keep as a template…', key: 'template' },
  { label: 'Let it stand for the lesson', key: 'cover' },
  { label: 'Move up', key: 'up' },
  { label: 'Move down', key: 'down' },
  { label: 'Delete', key: 'delete' },
] as const;

/** What is a teacher's alone. */
const TEACHERS: readonly string[] = ['template', 'cover'];

const menuOf = (at: number) =>
  MENU.filter(({ key }) => hasTemplates.value || !TEACHERS.includes(key)).map((item) => ({
    ...item,
    disabled:
      (item.key === 'cover' && props.scene.pages[at].page.id === lesson.document?.about.coverPage) ||
      (item.key === 'up' && at === 0) ||
      (item.key === 'down' && at === order.value.length - 1) ||
      (item.key === 'delete' && order.value.length === 1),
  }));

/** One menu serves all leaves: a lesson may have hundreds. */
function openMenu(event: MouseEvent, at: number) {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const wasOpen = menu.value?.at === at;
  menu.value = null;
  if (!wasOpen) void nextTick(() => (menu.value = { x: box.right + 4, y: box.top, at }));
}

function act(key: (typeof MENU)[number]['key']) {
  const { at } = menu.value!;
  menu.value = null;
  const page = props.scene.pages[at].page.id;
  const before = (n: number) => props.scene.pages[n]?.page.id ?? null;
  switch (key) {
    case 'add':
      emit('turn', page);
      return pages.addBlank();
    case 'duplicate':
      return pages.duplicate(page, true);
    case 'duplicate-bare':
      return pages.duplicate(page, false);
    case 'template':
      return templates.askName(page);
    case 'cover':
      return void pages.letStand(page).catch((error: Error) => (problem.value = error.message));
    case 'up':
      return pages.move(page, before(at - 2));
    case 'down':
      return pages.move(page, before(at + 1));
    case 'delete':
      return pages.drop(page);
  }
}

function dropped({ oldIndex, newIndex }: { oldIndex?: number; newIndex?: number }) {
  if (newIndex === undefined || newIndex === oldIndex) return;
  const { page } = order.value[newIndex];
  pages.move(page.id, newIndex === 0 ? null : order.value[newIndex - 1].page.id);
}
</script>

<template>
  <page-turner v-if="scene.pages.length > 1" :at="shownNumber" :count="scene.pages.length" @go="goTo" />
  <nav ref="list" class="leaves" aria-label="Pages">
    <vue-draggable
      v-model="order"
      class="order"
      :disabled="!canChange"
      :delay="220"
      :delay-on-touch-only="true"
      :animation="140"
      filter=".more"
      :prevent-on-filter="false"
      @end="dropped"
    >
      <div
        v-for="(state, i) in order"
        :key="state.page.id"
        v-memo="[state, i, state.page.id === scene.shown, canChange]"
        class="place"
        :data-page="state.page.id"
      >
        <page-leaf
          :state="state"
          :number="i + 1"
          :shown="state.page.id === scene.shown"
          @turn="emit('turn', state.page.id)"
        />
        <button
          v-if="canChange"
          class="more"
          aria-haspopup="menu"
          :aria-label="`Page ${i + 1}: more`"
          @click="openMenu($event, i)"
        >
          <icon-dots :size="20" />
        </button>
      </div>
    </vue-draggable>
    <n-dropdown
      trigger="manual"
      placement="right-start"
      :show="menu !== null"
      :x="menu?.x ?? 0"
      :y="menu?.y ?? 0"
      :options="menu ? menuOf(menu.at) : []"
      @select="act"
      @clickoutside="menu = null"
    />
    <template v-if="canChange">
      <n-button class="add" dashed @click="pages.addBlank()">
        <template #icon><icon-plus :size="20" /></template>Add a page
      </n-button>
      <n-button v-if="hasTemplates" class="add" quaternary @click="templates.choose()">From a template</n-button>
    </template>
  </nav>
</template>

<style scoped>
.leaves {
  min-height: 0;
  padding: 3px;
  overflow-y: auto;
}

.order {
  display: grid;
  gap: 8px;
}

/* Of a lesson with a thousand pages, the leaves in sight alone are laid out. */
.place {
  position: relative;
  content-visibility: auto;
  contain-intrinsic-size: auto 82px;
}

.more {
  position: absolute;
  top: 4px;
  right: 4px;
  display: grid;
  place-items: center;
  width: 32px;
  height: 32px;
  color: var(--ink);
  cursor: pointer;
  background: var(--veil);
  border: 0;
  border-radius: 8px;
  opacity: 0;
}

.place:hover .more,
.more:focus-visible,
.place:has([aria-current]) .more {
  opacity: 1;
}

.add {
  width: 100%;
  min-height: 44px;
  margin-top: 8px;
  color: var(--ink-soft);
}

@media (max-width: 640px) {
  .leaves,
  .order {
    display: flex;
    gap: 8px;
    align-items: start;
  }

  .place {
    width: 116px;
  }

  .add {
    width: auto;
    margin-top: 0;
  }
}
</style>
