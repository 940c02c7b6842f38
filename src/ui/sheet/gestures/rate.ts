import { rateLine, ratePulled, type RateHandle } from "../../geometry/rate-line";
import type { Gesture, Hand, Point } from "./gesture";

/** The line of a stutter's rate over the current track, if its chain has one. */
export const currentRateLine = (hand: Hand) =>
  rateLine(hand.state.project, hand.block(), hand.host.view());

/** Pulls an end of a stutter's rate, or its curve, in every part that has the card. */
export class Rate implements Gesture {
  readonly touches = false;

  constructor(
    private readonly hand: Hand,
    private readonly handle: RateHandle,
  ) {}

  move(point: Point): void {
    const rate = currentRateLine(this.hand);
    if (!rate) return;
    const { handle } = this;
    const params = ratePulled(rate, handle, point.y, this.hand.state.project.tempo);
    this.hand.edit.changeStep("Stutter", rate.step.id, params);
    const unit = params.unit === "ms" ? `${params[`${handle}Ms`]} ms` : `1/${params[handle]}`;
    this.hand.host.readout(handle === "middle" ? `changes ${params.curve}` : unit);
  }
}
