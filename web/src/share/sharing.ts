import { ref } from 'vue';
import { useSheetPictures } from '../bring-in/sheet-pictures';
import { useAttempt } from '../controls/attempt';
import { useEditing } from '../lesson/edition/editing';
import { useLesson } from '../lesson/lesson';
import { ofLesson } from '../lesson/lesson-scope';
import { useVoices } from '../lesson/voices';
import { linkSound } from '../playback/served-sound';
import { api } from '../server/api';
import { assetIdOf, upload } from '../server/upload';

/** The lesson's link: made, brought up to date, withdrawn. It goes on while its panel is closed. */
export const useSharing = ofLesson(() => {
  const lesson = useLesson();
  const editing = useEditing();
  const voices = useVoices();
  const sheetPictures = useSheetPictures();
  /** From 0 to 1 while a link is being made. */
  const progress = ref<number | null>(null);
  const { problem, attempt } = useAttempt();

  async function share(): Promise<void> {
    progress.value = 0;
    await attempt(async () => {
      await Promise.all([lesson.save(), editing.arrived()]);
      await sheetPictures.drawMissing();
      const { id, edit } = lesson.document!;
      const { programme } = lesson;
      const served = await voices.served(programme);
      const sound = served.urls.size > 0 ? await linkSound(served, (done) => (progress.value = done)) : null;
      const named = sound && (await assetIdOf(sound));
      const publish = () => api.publish(id, edit.n, named);
      await lesson.accept(await (sound && named ? upload(named, sound, publish) : publish()));
    });
    progress.value = null;
  }

  const withdraw = () => attempt(async () => lesson.accept(await api.withdraw(lesson.document!.id)));

  return { progress, problem, share, withdraw };
});
