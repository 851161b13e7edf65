import { UPLOAD_PART_BYTES, uploadPartCount } from '@kite-trail/core/contract/upload';
import type { TakeId } from '@kite-trail/core/lesson/ids';
import { named, readAsset } from '@kite-trail/server/assets/assets';
import { checkUpload, keepUploadPart } from '@kite-trail/server/assets/uploads';
import type { LessonRow, TakeRow } from '@kite-trail/server/database/rows';
import { makePublishable } from '@kite-trail/server/publishing/publishable';
import { publish } from '@kite-trail/server/publishing/publishing';
import type { Knex } from 'knex';
import type { LinkSound } from './sound';

/** A take's Ogg Opus. */
export async function soundOfTake(db: Knex, take: TakeId): Promise<Uint8Array> {
  const { sound_asset } = (await db<TakeRow>('takes').where({ id: take }).first())!;
  return readAsset(db, sound_asset!);
}

/** Publishes a lesson as its teacher's browser does, with its sound. */
export async function publishAs(db: Knex, lesson: LessonRow, sound: LinkSound): Promise<void> {
  const file = named(sound.file);
  for (let n = 0; n < uploadPartCount(sound.file.length); n++) {
    const part = sound.file.subarray(n * UPLOAD_PART_BYTES, (n + 1) * UPLOAD_PART_BYTES);
    await keepUploadPart(db, lesson.teacher_id, file.id, n, Buffer.from(part));
  }
  await publish(
    db,
    lesson.teacher_id,
    lesson,
    {
      programmeN: lesson.programme_n,
      sound: file.id,
      loudness: Buffer.from(sound.loudness).toString('base64'),
      part: null,
    },
    {
      played: await makePublishable(db, { lesson: lesson.id, part: null }),
      mixed: await checkUpload(db, { teacher: lesson.teacher_id, asset: file.id }),
    },
  );
}
