import { vi } from "vitest";

/** A part of the audio thread's program that writes down what it is told. */
export interface FakePart {
  name: string;
  options: { processorOptions: Record<string, unknown>; numberOfInputs: number };
  /** As they came, those sent together apart. */
  sent: readonly Told[][];
  readonly orders: Told[];
  to: unknown[];
  disconnected: number;
}

/** An order of any part: what it says, and all else that orders have. */
export type Told = { say: string } & Record<string, unknown>;

/** Stands in for the audio thread: its program is there as soon as `fetch` says so. */
export function fakeThread(
  fetched: () => Promise<Response> = () => Promise.resolve(new Response("")),
) {
  const parts: FakePart[] = [];
  vi.stubGlobal("fetch", vi.fn(fetched));
  vi.stubGlobal(
    "AudioWorkletNode",
    class implements FakePart {
      sent: Told[][] = [];
      to: unknown[] = [];
      disconnected = 0;
      readonly port = {
        onmessage: (_: { data: number }) => undefined,
        postMessage: (orders: Told[]) => {
          this.sent.push(orders);
          for (const { say, number } of orders)
            if (say === "answer")
              queueMicrotask(() => this.port.onmessage({ data: number as number }));
        },
      };
      constructor(
        _: unknown,
        readonly name: string,
        readonly options: FakePart["options"],
      ) {
        parts.push(this);
      }
      get orders() {
        return this.sent.flat();
      }
      connect(node: unknown) {
        this.to.push(node);
        return node;
      }
      disconnect() {
        this.disconnected++;
      }
    },
  );
  return { parts, of: (name: string) => parts.filter((part) => part.name === name) };
}
