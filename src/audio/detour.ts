import { cross, gainNode } from "./ease";

/**
 * A way from one node to another that may lead through something: straight at first, and bit for bit what
 * came in. What it is led through must leave the sound as it is at first; then the two ways cross unheard.
 */
export class Detour {
  private readonly straight: GainNode;
  private readonly round: GainNode;

  constructor(
    private readonly context: BaseAudioContext,
    private readonly from: AudioNode,
    to: AudioNode,
  ) {
    this.straight = gainNode(context, 1);
    this.round = gainNode(context, 0);
    from.connect(this.straight).connect(to);
    this.round.connect(to);
  }

  /** Leads through something from now on. */
  through(input: AudioNode, output: AudioNode): void {
    this.from.connect(input);
    output.connect(this.round);
    cross(this.straight.gain, 0, this.context);
    cross(this.round.gain, 1, this.context);
  }

  dispose(): void {
    this.straight.disconnect();
    this.round.disconnect();
  }
}
