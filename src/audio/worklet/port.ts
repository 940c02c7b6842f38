/** What leads to what makes sound: orders, and whether they are there. */
export interface Port<Command> {
  send(command: Command): void;
  /** Resolves when it sounds. Rejects where the audio thread's program cannot be had. */
  ready(): Promise<void>;
  /** Resolves when all that was ordered has arrived. For offline work: there time does not go by meanwhile. */
  arrived(): Promise<void>;
}

/** A way that is part of another: what is ordered on it goes along in an order there. */
export const within = <Command, Own>(
  port: Port<Command>,
  wrapped: (command: Own) => Command,
): Port<Own> => ({
  send: (command) => port.send(wrapped(command)),
  ready: () => port.ready(),
  arrived: () => port.arrived(),
});
