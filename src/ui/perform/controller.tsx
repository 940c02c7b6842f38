"use client";
import { X } from "lucide-react";
import { useEffect, useState, type PointerEvent } from "react";
import { toast } from "sonner";
import { padName } from "@/core/pitch";
import { FormatError } from "@/core/formats";
import { BendStrip } from "../controls/bend-strip";
import { FileButton } from "../controls/file-button";
import { Piano } from "../controls/piano";
import { Toggle } from "../controls/toggle";
import { ValueField } from "../controls/value-field";
import { useDesk, useSession } from "../session/context";
import { useMidiState } from "./use-midi";

/** The pads' keys: kick, snare, hats, clap, two toms, crash. */
const PADS = [36, 38, 42, 46, 39, 45, 50, 49];

/** The simulated controller: keys, pads, wheel, pedal, and a file it plays, all as MIDI bytes. */
export function Controller() {
  const open = useSession((state) => state.perform.controllerOpen);
  return open ? <Panel /> : null;
}

function Panel() {
  const { store } = useDesk();
  const { midi, controller } = useMidiState();
  // Put away with keys down it is like a device that is pulled out: nothing goes on.
  useEffect(
    () => () => {
      midi.unplug(controller.id);
      midi.plug(controller);
    },
    [midi, controller],
  );
  const [velocity, setVelocity] = useState(100);
  const [low, setLow] = useState(48);
  const [pedal, setPedal] = useState(false);
  const [down, setDown] = useState<ReadonlyMap<number, number>>(new Map());

  const press = (pitch: number, finger: number, time: number) => {
    setDown((now) => new Map(now).set(finger, pitch));
    controller.press(pitch, velocity, { time });
  };
  const lift = (finger: number, time: number) => {
    const pitch = down.get(finger);
    if (pitch === undefined) return;
    setDown((now) => new Map([...now].filter(([key]) => key !== finger)));
    controller.lift(pitch, { time });
  };
  return (
    <section
      aria-label="Simulated controller"
      className="flex shrink-0 flex-wrap items-center gap-3 border-t border-base-300 bg-base-200 px-4 py-2 text-[12px]"
    >
      <div className="flex w-[150px] flex-col gap-1">
        <span className="font-medium">Simulated controller</span>
        <label className="flex items-center justify-between">
          <span className="quiet">Velocity</span>
          <ValueField
            label="Controller velocity"
            className="w-12 text-right font-medium"
            value={velocity}
            min={1}
            max={127}
            reset={100}
            onChange={setVelocity}
          />
        </label>
        <label className="flex items-center justify-between">
          <span className="quiet">Lowest key</span>
          <ValueField
            label="Controller lowest key"
            className="w-12 text-right font-medium"
            value={low}
            min={0}
            max={96}
            step={12}
            reset={48}
            onChange={(value) => setLow(Math.floor(value / 12) * 12)}
          />
        </label>
        <BendStrip
          label="Controller bend"
          title="The controller's wheel: springs back when let go"
          onBend={(value, time) => controller.wheel(value, time)}
        />
      </div>
      <div className="w-[300px]">
        <Piano
          low={low}
          octaves={2}
          height={36}
          down={new Set(down.values())}
          onDown={(pitch, _, finger, time) => press(pitch, finger, time)}
          onUp={lift}
        />
      </div>
      <div className="grid w-[280px] grid-cols-4 gap-1" role="group" aria-label="Controller pads">
        {PADS.map((pitch) => (
          <ControllerPad key={pitch} pitch={pitch} velocity={velocity} />
        ))}
      </div>
      <div className="flex flex-col items-start gap-1">
        <Toggle
          label="Pedal"
          title="Sustain, as controller 64"
          on={pedal}
          onClick={() => {
            setPedal(!pedal);
            controller.pedal(!pedal);
          }}
        />
        <FilePlayer />
      </div>
      <button
        className="btn btn-ghost btn-xs ml-auto h-[24px] min-h-0"
        aria-label="Close the simulated controller"
        onClick={() => store.getState().setPerform({ controllerOpen: false })}
      >
        <X size={14} />
      </button>
    </section>
  );
}

/** A MIDI file that the controller plays. */
function FilePlayer() {
  const { controller } = useMidiState();
  const [playing, setPlaying] = useState("");
  const playFile = async (chosen: File) => {
    try {
      const count = controller.playFile(new Uint8Array(await chosen.arrayBuffer()), undefined, () =>
        setPlaying(""),
      );
      setPlaying(`${chosen.name}, ${count} notes`);
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      toast.error(`“${chosen.name}” not played. ${error.message}.`);
    }
  };
  return (
    <>
      {playing ? (
        <button
          className="btn btn-xs h-[24px] min-h-0"
          title={playing}
          onClick={() => {
            controller.stopFile();
            setPlaying("");
          }}
        >
          Stop the file
        </button>
      ) : (
        <FileButton
          file="MIDI file to play"
          className="btn btn-xs h-[24px] min-h-0"
          accept=".mid,.midi"
          onFiles={([chosen]) => void playFile(chosen)}
        >
          Play a MIDI file
        </FileButton>
      )}
    </>
  );
}

function ControllerPad({ pitch, velocity }: { pitch: number; velocity: number }) {
  const { controller } = useMidiState();
  const lift = (event: PointerEvent) =>
    controller.lift(pitch, { pad: true, time: event.timeStamp });
  return (
    <button
      className="h-[32px] touch-none truncate rounded-lg border border-base-300 bg-base-100 px-1 text-[12px] active:bg-primary active:text-primary-content"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        controller.press(pitch, velocity, { pad: true, time: event.timeStamp });
      }}
      onPointerUp={lift}
      onPointerCancel={lift}
      onKeyDown={(event) => {
        if (event.key !== "Enter" || event.repeat) return;
        controller.press(pitch, velocity, { pad: true });
        controller.lift(pitch, { pad: true });
      }}
    >
      {padName(pitch)}
    </button>
  );
}
