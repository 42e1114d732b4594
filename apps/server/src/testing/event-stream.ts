// The events of a server-sent stream, as a screen takes them in.

import type { Caller } from './running-plant.ts';

export class EventStream<T> {
  readonly events: T[] = [];
  private readonly stop = new AbortController();

  static async open<T>(caller: Caller, path: string): Promise<EventStream<T>> {
    const stream = new EventStream<T>();
    const response = await caller.raw(path, { signal: stream.stop.signal });
    if (!response.ok || !response.body)
      throw new Error(`${path}: ${response.status} ${await response.text()}`);
    void stream.take(response.body);
    return stream;
  }

  close(): void {
    this.stop.abort();
  }

  private async take(body: ReadableStream<Uint8Array>): Promise<void> {
    let text = '';
    const decoder = new TextDecoder();
    try {
      for await (const chunk of body as unknown as AsyncIterable<Uint8Array>) {
        text += decoder.decode(chunk, { stream: true });
        const blocks = text.split('\n\n');
        text = blocks.pop() ?? '';
        for (const block of blocks) {
          const data = /^data: (.*)$/m.exec(block)?.[1];
          if (data !== undefined) this.events.push(JSON.parse(data) as T);
        }
      }
    } catch {
      // Closed.
    }
  }
}
