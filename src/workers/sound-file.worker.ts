import { expose } from "comlink";
import { SoundFiles } from "@/audio/files/sound-files";

/** Sound into files, away from the page. */
expose(new SoundFiles());
