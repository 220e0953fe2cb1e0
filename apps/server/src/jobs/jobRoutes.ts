import type { Express, Response } from 'express';
import { NewRun, type JobEvent } from '@half-loop/contract';
import { bodyOf } from '../bodyOf';
import type { JobService } from './JobService';

/** Keeps the connection of an event stream through proxies, milliseconds. */
const BEAT = 20_000;

export function jobRoutes(app: Express, jobs: JobService): void {
  app.get('/api/jobs', async (_req, res) => void res.json({ jobs: await jobs.list() }));
  app.get('/api/jobs/events', (req, res) => {
    const stop = stream(res, (send) => jobs.listen(send));
    req.on('close', stop);
  });
  app.post(
    '/api/assets/:id/jobs',
    async (req, res) => void res.status(201).json({ jobs: await jobs.ask(req.params.id, bodyOf(NewRun, req)) }),
  );
  app.get('/api/jobs/:id', async (req, res) => void res.json(await jobs.find(req.params.id)));
  app.get('/api/jobs/:id/picture', async (req, res) => {
    res
      .type('png')
      .set('Cache-Control', 'private, max-age=31536000')
      .send(await jobs.picture(req.params.id));
  });
  app.post('/api/jobs/:id/cancel', async (req, res) => void res.json(await jobs.cancel(req.params.id)));
  app.delete('/api/jobs/:id', async (req, res) => {
    await jobs.remove(req.params.id);
    res.status(204).end();
  });
}

/** Server-sent events until the connection ends; gives what stops them. */
function stream(res: Response, listen: (send: (event: JobEvent) => void) => () => void): () => void {
  res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
  res.flushHeaders();
  const end = listen((event) => void res.write(`data: ${JSON.stringify(event)}\n\n`));
  const beat = setInterval(() => void res.write(': on\n\n'), BEAT);
  return () => {
    clearInterval(beat);
    end();
  };
}
