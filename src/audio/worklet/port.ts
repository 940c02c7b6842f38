/** Ports to what makes sound: commands, and whether they have arrived. */
export interface Port<Command> {
  send(command: Command): void;
  /** Resolves when it sounds. Rejects where the audio thread's program cannot be had. */
  ready(): Promise<void>;
  /** Resolves when every command sent has arrived. For offline work: there time does not go by meanwhile. */
  arrived(): Promise<void>;
}

/** A port inside another: a command sent to it goes along in a command of the outer one. */
export const within = <Command, Own>(
  port: Port<Command>,
  wrapped: (command: Own) => Command,
): Port<Own> => ({
  send: (command) => port.send(wrapped(command)),
  ready: () => port.ready(),
  arrived: () => port.arrived(),
});
