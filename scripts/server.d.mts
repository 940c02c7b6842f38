import type { ChildProcess } from "node:child_process";

export interface RunningServer {
  url: string;
  child: ChildProcess;
  ended: Promise<unknown>;
  stop(): Promise<void>;
  kill(): Promise<void>;
}

export function startServer(options: {
  port: number;
  data?: string;
  quiet?: boolean;
}): Promise<RunningServer>;
