/** Ends the address of the audio thread's program where it is to play live. */
export const LIVE = "#live";
