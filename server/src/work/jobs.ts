import type { Knex } from 'knex';
import { checkUpload } from '../assets/uploads';
import { inSnapshot } from '../database/transaction';
import { foldChanges } from '../lessons/changes';
import { paintLesson } from '../lessons/picture';
import { readEdit } from '../lessons/read-edit';
import { undrawnPages } from '../lessons/trails';
import { makePublishable } from '../publishing/publishable';
import { gatherTake } from '../takes/gather';
import { readPart } from '../takes/read-part';
import { paintTemplate } from '../templates/picture';

/**
 * What may take long: reading, joining, playing out, painting. Each is a function of a database and of what it is asked; it changes
 * nothing, and both what it is asked and what it finds can be sent from one thread to another.
 */
const JOBS = {
  checkUpload,
  foldChanges,
  gatherTake,
  makePublishable,
  paintLesson,
  paintTemplate,
  readEdit,
  readPart,
  undrawnPages,
};

type Jobs = typeof JOBS;
export type JobName = keyof Jobs;
export type Asked<Name extends JobName> = Parameters<Jobs[Name]>[1];
export type Found<Name extends JobName> = Awaited<ReturnType<Jobs[Name]>>;

/** Does a job on what is there at one moment. @throws what the job throws */
export const doJob = <Name extends JobName>(db: Knex, name: Name, asked: Asked<Name>): Promise<Found<Name>> =>
  inSnapshot(db, (at) => (JOBS[name] as (on: Knex, what: Asked<Name>) => Promise<Found<Name>>)(at, asked));
