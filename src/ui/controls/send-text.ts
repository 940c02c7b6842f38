import { SEND_OFF } from "@/core/sound";

/** A send or a level in dB as it is read; its bottom is off. */
export const sendText = (db: number): string => (db <= SEND_OFF ? "off" : `${db.toFixed(1)} dB`);
