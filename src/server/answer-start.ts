import { refusal } from './answer.ts';
import { practiceDayId, readAsked, Unanswerable } from './asked.ts';
import { keptStart, makeStart } from './starts.ts';

/** Answers with a day where the trader comes in, compressed, or begins to make it (202). */
export async function answerStart(request: Request, day: string): Promise<Response> {
  try {
    const { variation } = readAsked(request.url, ['variation']);
    const ref = { kind: 'practice', id: practiceDayId(day), seed: variation } as const;
    const bytes = await keptStart(ref);
    if (bytes)
      return new Response(bytes, {
        headers: {
          'Content-Type': 'application/gzip',
          'Cache-Control': 'no-store',
        },
      });
    void makeStart(ref);
    return new Response('This day is being made; ask again in a few seconds.\n', {
      status: 202,
      headers: { 'Content-Type': 'text/plain; charset=utf-8', 'Retry-After': '5' },
    });
  } catch (e) {
    if (!(e instanceof Unanswerable)) throw e;
    return refusal(e);
  }
}
