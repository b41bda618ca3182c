import {
  flag,
  identifier,
  list,
  moment,
  nullable,
  object,
  oneOf,
  optional,
  record,
  share,
  text,
  whole,
} from './forms';
import type { TypeOf } from './forms';
import { MOST_FINDINGS, findingForm } from './failure';
import { RESPONSE, answers, defineRoute, json } from './route';

/** How far a job has come. The last three are its ends. */
export const JOB_STATES = ['waiting', 'running', 'done', 'refused', 'failed'] as const;
export type JobState = (typeof JOB_STATES)[number];
export const isEnded = (state: JobState): boolean => state !== 'waiting' && state !== 'running';

/** Why a job was refused or failed. */
export const reasonForm = record({
  code: text(80),
  message: text(4000),
  kept: text(2000),
  action: text(2000),
  findings: optional(list(findingForm, MOST_FINDINGS)),
});

export const jobForm = record({
  id: identifier,
  /** What it does, in words. */
  title: text(400),
  kind: text(40),
  ownerName: nullable(text(200)),
  state: oneOf(...JOB_STATES),
  progress: share,
  /** What is being done. */
  step: text(400),
  reason: nullable(reasonForm),
  /** What came of it; which members there are depends on the kind. */
  result: nullable(object<Readonly<Record<string, unknown>>>()),
  tries: whole(0),
  createdAt: moment,
  startedAt: nullable(moment),
  endedAt: nullable(moment),
  /** Whether the one who reads this may end it. */
  mayCancel: flag,
});
export type Job = TypeOf<typeof jobForm>;
const one = record({ id: identifier });

/** One's jobs, the newest first; with `all`, for librarians, everybody's. */
export const listJobs = defineRoute('GET', '/api/jobs', {
  who: { audience: 'signed-in' },
  query: record({ all: optional(oneOf('yes')) }),
  answer: answers(record({ jobs: list(jobForm, 500) })),
});

export const getJob = defineRoute('GET', '/api/jobs/:id', {
  who: { audience: 'requester', always: ['librarian'] },
  params: one,
  answer: answers(jobForm),
});

/** Ends a job that has not ended; what it made so far is dropped. */
export const cancelJob = defineRoute('POST', '/api/jobs/:id/cancel', {
  who: { audience: 'requester', always: ['librarian'] },
  params: one,
  body: json(record({})),
  answer: answers(jobForm),
});

/**
 * Server-sent events: `job` with a job each time one of one's own changes (a librarian: anybody's).
 */
export const watchJobs = defineRoute('GET', '/api/jobs/events', {
  who: { audience: 'signed-in' },
  answer: RESPONSE,
});
