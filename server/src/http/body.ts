import express, { type Request, type RequestHandler, type Response } from 'express';
import type { z } from 'zod';
import type { Work } from '../work/work';
import { badInput } from './problem';

/** What a route takes. It is read once the right to the route is known, and up to its own limit. */
export interface Body<T> {
  /** @param work does what takes long */
  read(request: Request, response: Response, work: Work): Promise<T>;
}

const KILOBYTE = 1024;
const MEGABYTE = 1024 * KILOBYTE;
/** Marks that are made or recorded at once, such as thousands of pasted strokes, and pages with them. */
export const MOST_MARKS = 40 * MEGABYTE;
/** What an edit decides, and what a take replaces: as many segments, chapters and captions as a long lesson may have. */
export const MOST_EDITION = 16 * MEGABYTE;
/** A teacher's pens and learnt letters; what was heard of hours of a voice. */
export const MOST_KEPT = 16 * MEGABYTE;

/**
 * JSON of a form.
 * @throws RequestProblem when it is of another one, or larger than `most`
 */
export function json<T>(schema: z.ZodType<T>, most = 100 * KILOBYTE): Body<T> {
  const parser = express.json({ limit: most, inflate: false });
  return {
    read: async (request, response) => {
      await parsed(parser, request, response);
      return checked(schema, request.body);
    },
  };
}

/** A value of a form. @throws RequestProblem when it is of another one */
export function checked<T>(schema: z.ZodType<T>, value: unknown): T {
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  throw badInput(issue.path.length > 0 ? `${issue.message} (${issue.path.join(' → ')})` : issue.message);
}

/** @throws RequestProblem when it is no JSON */
export function parsedJson(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(Buffer.from(bytes).toString());
  } catch {
    throw badInput('The server could not read this request.');
  }
}

/** JSON as it was sent, to be read where nobody waits meanwhile. @throws RequestProblem when it is larger than `most` */
export const jsonBytes = (most: number): Body<Buffer> => raw(most, 'application/json');

/** Bytes as they are. @throws RequestProblem when there are none, or more than `most` */
export const bytes = (most: number): Body<Buffer> => raw(most, 'application/octet-stream');

function raw(most: number, type: string): Body<Buffer> {
  const parser = express.raw({ limit: most, inflate: false, type });
  return {
    read: async (request, response) => {
      await parsed(parser, request, response);
      if (Buffer.isBuffer(request.body)) return request.body;
      throw badInput(`This is sent as ${type}.`);
    },
  };
}

/** Nothing: whatever comes is not read. */
export const nothing: Body<undefined> = { read: async () => undefined };

function parsed(parser: RequestHandler, request: Request, response: Response): Promise<void> {
  return new Promise((resolve, reject) => {
    void parser(request, response, (error: unknown) => (error ? reject(error) : resolve()));
  });
}
