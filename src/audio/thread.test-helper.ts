import { vi } from "vitest";
import type { PlayerOrder } from "./synth/track-sound";
import type { Way } from "./worklet/thread-port";

/** A part of the audio thread's program that writes down what it is told. */
export interface FakePart {
  name: string;
  options: {
    processorOptions: Record<string, unknown>;
    numberOfInputs: number;
    outputChannelCount: number[];
  };
  /** As they came, those sent together apart. */
  sent: readonly Told[][];
  readonly orders: Told[];
  to: unknown[];
  /** Of which output each of these is. */
  outputs: number[];
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
      outputs: number[] = [];
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
      connect(node: unknown, output = 0) {
        this.to.push(node);
        this.outputs.push(output);
        return node;
      }
      disconnect() {
        this.disconnected++;
      }
    },
  );
  return { parts, of: (name: string) => parts.filter((part) => part.name === name) };
}

/** Writes down what an instrument orders, which is there at once. */
export function fakeWay<Order extends { say: string } = PlayerOrder>() {
  const orders: Order[] = [];
  const way: Way<Order> = {
    order: (order) => orders.push(order),
    ready: () => Promise.resolve(),
    arrived: () => Promise.resolve(),
  };
  return { way, orders };
}
