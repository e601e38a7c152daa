/** Requests to a worker that have not been answered yet, by their ids. */
export interface Pending<T> {
  /** Gives the request an id and sends it; the promise waits for its answer. */
  add(send: (id: number) => void): Promise<T>;
  answer(id: number, value: T): void;
  refuse(id: number, message: string): void;
  /** The worker is gone: nobody will be answered. */
  refuseAll(message: string): void;
}

/** Requests that wait for their answers. */
export function createPending<T>(): Pending<T> {
  const waiting = new Map<number, { resolve: (value: T) => void; reject: (e: Error) => void }>();
  let next = 1;
  const take = (id: number) => {
    const w = waiting.get(id);
    waiting.delete(id);
    return w;
  };
  return {
    add: (send) =>
      new Promise<T>((resolve, reject) => {
        const id = next++;
        waiting.set(id, { resolve, reject });
        send(id);
      }),
    answer: (id, value) => take(id)?.resolve(value),
    refuse: (id, message) => take(id)?.reject(new Error(message)),
    refuseAll(message) {
      for (const id of [...waiting.keys()]) take(id)?.reject(new Error(message));
    },
  };
}
