import * as z from 'zod/mini';
import { BlobReceipt, JobCard, JobEvent, JobsResponse, NewRun, Problem } from '@half-loop/contract';

const SCHEMAS = { NewRun, JobCard, JobsResponse, JobEvent, BlobReceipt, Problem };
type SchemaName = keyof typeof SCHEMAS;

const ref = (name: SchemaName): object => ({ $ref: `#/components/schemas/${name}` });
const json = (name: SchemaName, description: string): object => ({
  description,
  content: { 'application/json': { schema: ref(name) } },
});
const problem = (description: string): object => ({
  description,
  content: { 'application/problem+json': { schema: ref('Problem') } },
});
const parameter = (name: string): object => ({ name, in: 'path', required: true, schema: { type: 'string' } });
const bytes = (type: string, description: string): object => ({
  description,
  content: { [type]: { schema: { type: 'string', format: 'binary' } } },
});

/** The routes of long work in OpenAPI 3.1, with the schemas that the server itself checks by. */
export function openApi(): object {
  const NOT_FOUND = { 404: problem('It is not here') };
  const job = [parameter('job')];
  return {
    openapi: '3.1.0',
    info: { title: 'Half Loop', version: '0.1.0', description: 'Automatic retopology as a job on the server.' },
    paths: {
      '/api/blobs': {
        post: {
          summary: 'Stores bytes by their SHA-256: a packed low-poly, before a job is asked to lay over it',
          requestBody: bytes('application/octet-stream', 'The bytes'),
          responses: {
            201: json('BlobReceipt', 'Stored'),
            413: problem('Too large'),
            507: problem('The disk is full'),
          },
        },
      },
      '/api/blobs/{hash}': {
        get: {
          summary: 'Stored bytes: a job’s result is a packed low-poly',
          parameters: [parameter('hash')],
          responses: { 200: bytes('application/octet-stream', 'The bytes'), ...NOT_FOUND },
        },
      },
      '/api/assets/{asset}/jobs': {
        post: {
          summary: 'Asks for a run of jobs; they wait their turn, and go on when nobody watches',
          parameters: [parameter('asset')],
          requestBody: { content: { 'application/json': { schema: ref('NewRun') } }, required: true },
          responses: {
            201: json('JobsResponse', 'Asked for'),
            400: problem('The request cannot be understood'),
            429: problem('Too many jobs of this asset are open'),
            ...NOT_FOUND,
          },
        },
      },
      '/api/jobs': { get: { summary: 'All jobs, the newest first', responses: { 200: json('JobsResponse', 'Jobs') } } },
      '/api/jobs/events': {
        get: {
          summary: 'Server-sent events: each is a job as it is now, or that it went',
          responses: {
            200: { description: 'Events', content: { 'text/event-stream': { schema: ref('JobEvent') } } },
          },
        },
      },
      '/api/jobs/{job}': {
        get: { summary: 'One job', parameters: job, responses: { 200: json('JobCard', 'The job'), ...NOT_FOUND } },
        delete: {
          summary: 'Drops a job and its result; one that runs is cancelled first',
          parameters: job,
          responses: { 204: { description: 'Dropped' }, ...NOT_FOUND },
        },
      },
      '/api/jobs/{job}/cancel': {
        post: {
          summary: 'Ends a job',
          parameters: job,
          responses: { 200: json('JobCard', 'As it is now'), ...NOT_FOUND },
        },
      },
      '/api/jobs/{job}/picture': {
        get: {
          summary: 'What there is to see of it: it grows with the job; of one refused, where',
          parameters: job,
          responses: { 200: bytes('image/png', 'A picture'), ...NOT_FOUND },
        },
      },
    },
    components: {
      schemas: Object.fromEntries(Object.entries(SCHEMAS).map(([name, schema]) => [name, z.toJSONSchema(schema)])),
    },
  };
}
