import { useEffect, useState } from "react";
import { loopsPlayed } from "@/core/perform";
import { layPlayed, type PlayedLine } from "../geometry/played-line";
import { useDesk } from "../session/context";
import { wallClock } from "../session/player";

/** It is looked at again at most so often, in ms. */
const LOOK_MS = 150;

/** What was played, laid out; again soon after it changes. */
export function usePlayedLine(): PlayedLine {
  const { store, player } = useDesk();
  const [strip, setLine] = useState<PlayedLine>({ spans: [], width: 0 });
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | null = null;
    let seen = -1;
    const look = () => {
      timer = null;
      if (player.log.version === seen) return;
      seen = player.log.version;
      const { project } = store.getState();
      setLine(layPlayed(loopsPlayed(project, player.log.notes), wallClock()));
    };
    look();
    const stop = player.watch(() => {
      timer ??= setTimeout(look, LOOK_MS);
    });
    return () => {
      stop();
      if (timer) clearTimeout(timer);
    };
  }, [store, player]);
  return strip;
}
