import { z } from 'zod';
import { checkedJson, FormatError } from '../formats/bytes';
import { newer } from '../formats/magic';
import { edition, part } from './edition';
import { lessonAbout, lessonSource, page, takePlan } from './lesson';
import { linkSettings } from './link';
import { marking, taskAbout } from './task';

/**
 * What is stored as JSON: each text says what it is, and in which version it was written. The first version was the bare
 * value; every schema still takes it.
 */
const { programme, inkEdits, chapters, captions, prompts, sound } = edition.shape;
const SCHEMAS = {
  programme,
  'ink-edits': inkEdits,
  chapters,
  captions,
  prompts: prompts.unwrap(),
  sound,
  edition,
  plan: takePlan,
  about: lessonAbout,
  part,
  source: lessonSource,
  'link-rules': linkSettings.pick({ mayCopy: true, allows: true, sites: true }),
  page,
  paper: page.shape.paper,
  sheet: page.shape.sheet.unwrap(),
  scale: page.shape.scale.unwrap().unwrap(),
  task: taskAbout,
  marking,
};
export type FormName = keyof typeof SCHEMAS;
export type FormValue<Name extends FormName> = z.output<(typeof SCHEMAS)[Name]>;

const VERSION = 2;
const named = z.object({ form: z.string(), version: z.int().positive(), value: z.unknown() });

export const writeForm = <Name extends FormName>(form: Name, value: FormValue<Name>): string =>
  JSON.stringify({ form, version: VERSION, value });

/** @throws FormatError where it is of a newer version, is something else, or not of this shape */
export function readForm<Name extends FormName>(form: Name, text: string): FormValue<Name> {
  const read = checkedJson(text, z.unknown());
  const told = named.safeParse(read);
  if (told.success && told.data.version > VERSION) throw newer();
  if (told.success && told.data.form !== form) throw damagedForm(form);
  const checked = SCHEMAS[form].safeParse(told.success ? told.data.value : read);
  if (!checked.success) throw damagedForm(form);
  return checked.data as FormValue<Name>;
}

const damagedForm = (form: FormName) =>
  new FormatError(`This ${form.replace('-', ' ')} is damaged and cannot be read. Nothing was changed.`);
