import { type Calls, calls, type Port } from '../src/worker/call/calls.ts';
import { type Jobs, serve } from '../src/worker/call/serve.ts';

/** Calls to jobs in this thread; what goes either way is copied, as between a page and its worker. */
export function linked<R extends { kind: string }, A extends Record<R['kind'], unknown>, P = never>(
  jobs: Jobs<R, A, P>,
): Calls<R, A, P> {
  return calls<R, A, P>(() => {
    let running = true;
    const inside = {
      onmessage: null as ((e: MessageEvent) => void) | null,
      postMessage: (m: unknown) => void (running && port.onmessage?.(copied(m))),
    };
    const port: Port = {
      onmessage: null,
      onerror: null,
      postMessage: (m) => inside.onmessage?.(copied(m)),
      terminate: () => {
        running = false;
      },
    };
    serve(jobs, undefined, inside);
    return port;
  });
}

const copied = (m: unknown): MessageEvent => ({ data: structuredClone(m) }) as MessageEvent;
