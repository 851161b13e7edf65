<script setup lang="ts">
import { useEventListener, useMediaQuery } from '@vueuse/core';
import { useRoute } from 'vue-router';
import Board from '../../board/Board.vue';
import FirstGestures from '../../board/FirstGestures.vue';
import ComposingDialog from '../../board/composing/ComposingDialog.vue';
import ReadingDialog from '../../board/handwriting/ReadingDialog.vue';
import { usePens } from '../../board/pens/pens';
import PenRoll from '../../board/pens/PenRoll.vue';
import ToolsHere from '../../board/pens/ToolsHere.vue';
import { useClipboardEvents } from '../../board/selection/clipboard-events';
import { useBringIn } from '../../bring-in/bring-in';
import { useDroppedFiles } from '../../bring-in/dropped-files';
import CornersDialog from '../../bring-in/CornersDialog.vue';
import InkDialog from '../../bring-in/InkDialog.vue';
import PdfChooser from '../../bring-in/PdfChooser.vue';
import PdfPassword from '../../bring-in/PdfPassword.vue';
import PageLeaves from '../../pages/PageLeaves.vue';
import TemplateChooser from '../../pages/TemplateChooser.vue';
import TemplateName from '../../pages/TemplateName.vue';
import { useTurning } from '../../pages/turning';
import AuditionBar from '../../trail/AuditionBar.vue';
import { useKeys } from './keys';
import LessonHead from './LessonHead.vue';
import LessonNotices from './LessonNotices.vue';
import { useNotices } from '../notices';
import { useRecordingNow } from '../recording-now';
import ShortcutSheet from './ShortcutSheet.vue';
import { useSurface } from '../surface';

/** Frames the steps: the page is there in all of them, and around it what the open step puts into the frame's places. */
const surface = useSurface();
const pens = usePens();
const bringIn = useBringIn();
const turning = useTurning();
const recording = useRecordingNow();
const keys = useKeys();
const route = useRoute();
const problem = useNotices().place('problem');
/** Where there is no room to spare, pages are turned to by who writes on them; else the trail comes to them. */
const isPhone = useMediaQuery('(max-width: 640px)');

// Which keys there are is said where the steps are (`app/lesson-routes`).
keys.all = (route.matched[0].meta.keys ?? []).flatMap((useThem) => useThem());
// Only while the screen is there: what was changed may be on its way for longer.
useEventListener(window, 'keydown', keys.press);
recording.pauseWhile(() => keys.isSheetOpen);
useClipboardEvents();
// What falls beside the page is brought in as well.
useDroppedFiles((files) => {
  problem.value = surface.isWritable ? null : 'This can be brought in while you prepare, or record.';
  if (surface.isWritable) void bringIn.bring(files);
});
</script>

<template>
  <div class="lesson" :class="{ left: pens.hand === 'left' }">
    <lesson-head />
    <div class="bars" role="region" aria-label="What this step needs">
      <router-view name="line" />
      <router-view />
      <audition-bar />
      <router-view name="bar" />
      <lesson-notices />
    </div>
    <div class="work">
      <aside class="column" aria-label="Tools">
        <router-view name="controls" />
        <pen-roll v-if="surface.isWritable" />
        <page-leaves
          v-if="surface.moment && (surface.isWriting || !isPhone)"
          :scene="surface.moment.scene"
          :can-change="surface.isWritable"
          @turn="turning.turnTo"
        />
      </aside>
      <main class="board">
        <board
          v-if="surface.moment"
          :moment="surface.moment"
          :writable="surface.isWritable"
          :tool="surface.tool"
          :lit="surface.lit"
        />
        <first-gestures v-if="surface.moment" />
        <tools-here v-if="surface.isWritable" />
        <router-view name="over" />
      </main>
      <router-view v-slot="{ Component }" name="panel">
        <component :is="Component" v-if="Component" class="panel" />
      </router-view>
    </div>
    <corners-dialog />
    <ink-dialog />
    <pdf-chooser />
    <pdf-password />
    <template-chooser />
    <template-name />
    <composing-dialog />
    <reading-dialog />
    <shortcut-sheet />
  </div>
</template>

<style scoped>
.lesson {
  display: flex;
  flex-direction: column;
  height: 100dvh;
  overflow: hidden;
}

.bars {
  display: contents;
}

.work {
  display: flex;
  flex: 1;
  gap: 1rem;
  min-height: 0;
  padding: 14px 1rem;
}

.left .work {
  flex-direction: row-reverse;
}

.column {
  display: flex;
  flex: 0 0 148px;
  flex-direction: column;
  gap: 0.9rem;
  min-height: 0;
}

.board {
  position: relative;
  flex: 1;
  min-width: 0;
}

.panel {
  flex: 0 0 320px;
  overflow-y: auto;
}

@media (max-width: 900px) {
  .work:has(> .panel) {
    flex-direction: column;
    overflow-y: auto;
  }

  .work:has(> .panel) .column {
    display: none;
  }

  .work:has(> .panel) .board {
    flex: 0 0 40vh;
  }

  .panel {
    flex: none;
  }
}

/* A phone held upright: the tools get a row above the page. */
/* A phone held upright: Record, pens and pages in rows above the page, each of which scrolls by itself. */
@media (max-width: 640px) {
  .work,
  .left .work {
    flex-direction: column;
    gap: 10px;
    padding: 10px 12px;
  }

  .column {
    display: contents;
  }

  .column > :deep(*) {
    flex: none;
    overflow-x: auto;
  }
}
</style>
