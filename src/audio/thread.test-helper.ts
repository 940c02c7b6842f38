import { vi } from "vitest";
import type { PlayerCommand } from "./synth/track-sound";
import type { Port } from "./worklet/port";

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
  readonly commands: Told[];
  to: unknown[];
  disconnected: number;
  /** Says something to the page. */
  tell(data: unknown): void;
}

/** An order of any part: what it says, and all else that orders have. */
export type Told = { type: string } & Record<string, unknown>;

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
        onmessage: (_: { data: unknown }) => undefined,
        postMessage: (commands: Told[]) => {
          this.sent.push(commands);
          for (const { type, number } of commands)
            if (type === "answer") queueMicrotask(() => this.port.onmessage({ data: number }));
        },
      };
      constructor(
        _: unknown,
        readonly name: string,
        readonly options: FakePart["options"],
      ) {
        parts.push(this);
      }
      tell(data: unknown) {
        this.port.onmessage({ data });
      }
      get commands() {
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
  return { parts };
}

/** Writes down what an instrument orders, which is there at once. */
export function recordingPort<Command extends { type: string } = PlayerCommand>() {
  const commands: Command[] = [];
  const fakePort: Port<Command> = {
    send: (command) => commands.push(command),
    ready: () => Promise.resolve(),
    arrived: () => Promise.resolve(),
  };
  return { fakePort, commands };
}
