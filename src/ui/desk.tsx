"use client";
import { useEffect } from "react";
import { Palette } from "./actions/palette";
import { useKeys } from "./actions/use-keys";
import { PatternStrip } from "./arrange/pattern-strip";
import { SongStrip } from "./arrange/song-strip";
import { Bench } from "./bench/bench";
import { ChordLine, ChordOffer } from "./chords/chord-line";
import { openGenerator } from "./commands/ideas/generator";
import { RecordingStrip } from "./files/recording-strip";
import { Foot } from "./foot/foot";
import { LessonStrip } from "./help/lesson-strip";
import { HelpLayer } from "./help/help-layer";
import { IdeaSheet } from "./ideas/idea-sheet";
import { Mixer } from "./mixer/mixer";
import { SessionProvider, useDesk, useSession } from "./session/context";
import type { StoredProject } from "@/core/stored";
import { Controller } from "./perform/controller";
import { CountIn } from "./perform/count-in";
import { PlayedStrip } from "./perform/played-strip";
import { useMidi } from "./perform/use-midi";
import { Overview } from "./sheet/overview";
import { Sheet } from "./sheet/sheet";
import { Transport } from "./transport/transport";

/** One open project: transport, sheet with its foot, and the bench. */
export function Desk({ stored }: { stored: StoredProject }) {
  return (
    <SessionProvider stored={stored}>
      <Table />
    </SessionProvider>
  );
}

function Table() {
  const mixer = useSession((state) => state.mixerOpen);
  useKeys();
  useMidi();
  // Fetched ahead of time, so that generating needs no server later.
  useEffect(() => void openGenerator(), []);
  return (
    <div className="flex h-dvh min-h-[520px] flex-col overflow-hidden">
      <SkipLink />
      <Transport />
      <main className="relative flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col">
          <PatternStrip />
          <SongStrip />
          <ChordLine />
          <RecordingStrip />
          <div className="relative flex min-h-0 flex-1 flex-col">
            <Sheet />
            <ChordOffer />
            <CountIn />
          </div>
          <Overview />
          <IdeaSheet />
          <PlayedStrip />
          <Controller />
          <LessonStrip />
          {mixer ? <Mixer /> : <Foot />}
        </div>
        <Bench />
      </main>
      <Palette />
      <HelpLayer />
    </div>
  );
}

/** The first stop of the tab key: past the bar, to the sheet. */
function SkipLink() {
  const { store } = useDesk();
  return (
    <a
      href="#sheet"
      className="btn btn-primary btn-sm fixed top-1 left-1 z-50 not-focus:sr-only"
      onClick={(event) => {
        event.preventDefault();
        store.getState().request("sheet");
      }}
    >
      To the sheet
    </a>
  );
}
