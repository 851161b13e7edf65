import type { Knex } from 'knex';
import { checkArrived, readBrought } from '../archives/arriving';
import { fileLesson } from '../archives/lesson-files';
import { nameBytes } from '../assets/assets';
import { measureSpace } from '../assets/space';
import { checkUpload } from '../assets/uploads';
import { inSnapshot } from '../database/transaction';
import { readLargeJson } from '../http/large-json';
import { foldChanges } from '../lessons/changes';
import { listCatalogue } from '../catalogue/catalogue';
import { makeFilmPart } from '../films/part';
import { gatherPages } from '../lessons/copy';
import { gatherInsight } from '../insight/insight';
import { gatherDuplicate, gatherForOthers } from '../lessons/duplicate';
import { describeEdit, describeLesson } from '../lessons/describe';
import { readEdit } from '../lessons/editions';
import { listLessons } from '../lessons/lessons';
import { paintLesson, paintPage, paintPages } from '../lessons/picture';
import { undrawnPages } from '../lessons/trails';
import { readVersion, writeVersion } from '../lessons/versions';
import { readTexts } from '../search/reading';
import { makePublishable } from '../publishing/publishable';
import { listRecordings } from '../takes/list';
import { momentIn, placeAnswers } from '../questions/questions';
import { gatherAnswerPage } from '../questions/recorded-answers';
import { gatherTake } from '../takes/gather';
import { paintBeside } from '../tasks/beside';
import { readPart, readProfile } from '../takes/readings';
import { paintTemplate } from '../templates/picture';
import { readTemplate } from '../templates/read-template';

/**
 * What may take long and is about what the database has at one moment: joining, playing out, painting. Nothing is changed, and both
 * what is asked and what is found can be sent from one thread to another.
 */
const JOBS = {
  checkArrived,
  checkUpload,
  describeEdit,
  describeLesson,
  fileLesson,
  foldChanges,
  gatherAnswerPage,
  gatherDuplicate,
  gatherForOthers,
  gatherInsight,
  gatherPages,
  gatherTake,
  listCatalogue,
  listLessons,
  listRecordings,
  makeFilmPart,
  makePublishable,
  measureSpace,
  momentIn,
  paintBeside,
  paintLesson,
  paintPage,
  paintPages,
  paintTemplate,
  placeAnswers,
  readTexts,
  readVersion,
  undrawnPages,
  writeVersion,
};

/** What may take long and is about what was sent alone. */
const READINGS = { nameBytes, readBrought, readEdit, readLargeJson, readPart, readProfile, readTemplate };

type Jobs = typeof JOBS;
type Readings = typeof READINGS;
export type JobName = keyof Jobs | keyof Readings;
export type Asked<Name extends JobName> = Name extends keyof Jobs
  ? Parameters<Jobs[Name]>[1]
  : Parameters<Readings[Name & keyof Readings]>[0];
export type Found<Name extends JobName> = Awaited<
  ReturnType<Name extends keyof Jobs ? Jobs[Name] : Readings[Name & keyof Readings]>
>;

/** Does a job. @throws what the job throws */
export function doJob<Name extends JobName>(db: Knex, name: Name, asked: Asked<Name>): Promise<Found<Name>> {
  const found = name in READINGS ? read(name, asked) : inSnapshot(db, (at) => work(at, name, asked));
  return found as Promise<Found<Name>>;
}

const read = (name: JobName, asked: unknown) =>
  (READINGS[name as keyof Readings] as (what: unknown) => Promise<unknown>)(asked);
const work = (db: Knex, name: JobName, asked: unknown) =>
  (JOBS[name as keyof Jobs] as (on: Knex, what: unknown) => Promise<unknown>)(db, asked);
