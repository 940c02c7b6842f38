/**
 * The public core, for checks from outside: everything that a room of the core offers to others.
 * Inside the project a room is imported by its own face, which loads in a fraction of the time.
 */
export * from "./base";
export * from "./time";
export * from "./pitch";
export * from "./sound";
export * from "./params";
export * from "./score";
export * from "./groove";
export * from "./transforms";
export * from "./playback";
export * from "./generate";
export * from "./listen";
export * from "./analysis";
export * from "./perform";
export * from "./stored";
export * as edits from "./edits";
export * from "./formats";
