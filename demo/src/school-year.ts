import type { ClassColor } from '@kite-trail/core/contract/class';
import type { ClassId, TeacherId } from '@kite-trail/core/lesson/ids';
import { addToClasses, makeClass } from '@kite-trail/server/classes/classes';
import type { ClassRow, LessonRow } from '@kite-trail/server/database/rows';
import type { Knex } from 'knex';

/** The classes of the boat school, and what tells them apart. */
const CLASSES = {
  'Day skippers': 'sea',
  'Competent crew': 'kelp',
  'Young sailors': 'straw',
} as const satisfies Record<string, ClassColor>;
export type DemoClass = keyof typeof CLASSES;

/** The classes that are taught this year, by which lessons are put into them. */
export class SchoolYear {
  private constructor(
    private readonly db: Knex,
    readonly teacher: TeacherId,
    private readonly ids: Map<DemoClass, ClassId>,
  ) {}

  static async begin(db: Knex, teacher: TeacherId): Promise<SchoolYear> {
    const ids = new Map<DemoClass, ClassId>();
    for (const [name, color] of Object.entries(CLASSES)) {
      ids.set(name as DemoClass, await makeClass(db, teacher, { name, color }));
    }
    return new SchoolYear(db, teacher, ids);
  }

  /** The year that was begun before. */
  static async goingOn(db: Knex): Promise<SchoolYear> {
    const classes = await db<ClassRow>('classes');
    return new SchoolYear(db, classes[0].teacher_id, new Map(classes.map(({ name, id }) => [name as DemoClass, id])));
  }

  teach(lesson: LessonRow, to: DemoClass): Promise<void> {
    return addToClasses(this.db, lesson, [this.ids.get(to)!]);
  }
}
