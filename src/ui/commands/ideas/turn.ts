let asked = 0;

/** Takes a turn for the sheet of ideas: what was asked for before and comes later no longer counts. */
export const takeTurn = (): number => ++asked;
/** Whether nothing else was asked for since. */
export const isTurn = (turn: number): boolean => turn === asked;
