"use client";
import { Check, Shuffle, Star, ThumbsDown, X } from "lucide-react";
import { memo, useDeferredValue } from "react";
import { plural, nth } from "@/core/base";
import type { Metre } from "@/core/time";
import { chordText } from "@/core/pitch";
import { patternOf, trackOf } from "@/core/score";
import { MEASURES, measuresOf } from "@/core/generate";
import { ScorePicture } from "../controls/score-picture";
import { useDesk, useSession, useWork } from "../session/context";
import {
  applyIdea,
  endPreview,
  generate,
  holdIdea,
  ideasHere,
  isPreviewed,
  nextIdea,
  previewIdea,
} from "../commands/ideas/ideas";
import { barsOf } from "../commands/ideas/wishes";
import {
  breed,
  drop,
  isOfChords,
  isStarred,
  sortIdeas,
  star,
  starredSigns,
} from "../commands/ideas/sheet";
import type { SheetIdea } from "../state/ideas";
import { chordTrack } from "../commands/ideas/chord-ideas";
import { others } from "../commands/ideas/vary";
import { currentMetre } from "../state/current";
import { keyed } from "../person/keys";

/** A sheet of ideas as small scores: each heard while the pointer or the keyboard is on it. */
export function IdeaSheet() {
  const { store } = useDesk();
  const state = useWork();
  const { ideas } = state;
  const bench = useSession((state) => state.benchOpen);
  // Twelve pictures are drawn when there is time for them: the playhead goes first.
  const list = useDeferredValue(ideasHere(state));
  if (!state.ideasOpen || !state.track) return null;
  const chords = isOfChords(state);
  const pattern = patternOf(state.project, state.pattern);
  const track = trackOf(state.project, (chords ? chordTrack(state) : null) ?? state.track);
  const bars = chords
    ? pattern.bars
    : barsOf(state.project, { pattern: pattern.id, track: track.id });
  const starred = starredSigns(state);
  const metre = currentMetre(state);
  const ink = `var(--track-${state.project.tracks.indexOf(track) % 8})`;
  const back = () => previewIdea(store, store.getState().ideas.held);
  const previewed = list.find((idea) => isPreviewed(state, idea));
  return (
    <section
      aria-label="Ideas"
      // Where the bench lies over the sheet, ideas stand beside it.
      className={`relative z-20 flex max-h-[39%] shrink-0 flex-col border-t border-base-300 bg-base-100 text-[12px] ${bench ? "max-[1099px]:mr-[312px]" : ""}`}
    >
      <header className="flex min-h-[34px] shrink-0 items-center gap-x-2 px-4 max-[1099px]:flex-wrap max-[1099px]:pb-1">
        <h2 className="truncate text-[13px] font-semibold">
          {ideas.of?.kind === "vary" ? "Variations of" : "Ideas for"}{" "}
          {chords ? "the chord line" : track.name}, {pattern.name}
        </h2>
        <span className="quiet min-w-0 truncate" role="status">
          {ideas.generating
            ? "Generating…"
            : `${plural(list.length, "idea")}: point at one to preview it, or press /`}
        </span>
        <span className="ml-auto flex shrink-0 items-center gap-1 max-[1099px]:shrink max-[1099px]:flex-wrap">
          <SheetTools
            chords={chords}
            previewed={previewed !== undefined}
            melody={track.kind === "melody"}
            starred={starred.size}
            empty={list.length === 0}
          />
        </span>
      </header>
      {ideas.wrong && (
        <p role="alert" className="px-4 pb-2 text-error">
          {ideas.wrong}
        </p>
      )}
      {ideas.gave.length > 0 && !ideas.wrong && (
        <p className="quiet px-4 pb-1.5" data-testid="gave-way">
          {ideas.gave.join(". ")}.
        </p>
      )}
      <ol
        aria-label="Ideas"
        className="grid min-h-0 grid-cols-[repeat(auto-fill,minmax(206px,1fr))] gap-2 overflow-y-auto px-4 pb-3"
        onPointerLeave={back}
      >
        {list.map((idea, i) => (
          <Card
            key={`${idea.seed}-${i}`}
            idea={idea}
            number={i + 1}
            previewed={idea === previewed}
            starred={isStarred(starred, idea)}
            bars={bars}
            metre={metre}
            colour={ink}
            line={!chords && track.kind === "melody" && ideas.of?.kind !== "vary"}
            figure={figureOf(idea, ideas.sort, bars, metre)}
          />
        ))}
      </ol>
    </section>
  );
}

interface ToolsProps {
  /** Whether the sheet is of lines of chords. */
  chords: boolean;
  /** Whether the track is a melodic one. */
  melody: boolean;
  /** Whether an idea is previewed. */
  previewed: boolean;
  /** How many ideas are starred. */
  starred: number;
  empty: boolean;
}

/** What is done with the sheet as a whole. */
function SheetTools({ chords, melody, previewed, starred, empty }: ToolsProps) {
  const { store } = useDesk();
  const sort = useSession((state) => state.ideas.sort);
  const close = () => {
    endPreview(store);
    store.getState().setLook({ ideasOpen: false });
  };
  return (
    <>
      {!chords && (
        <>
          <select
            className="select select-xs w-[124px]"
            aria-label="Sort the ideas"
            value={sort}
            onChange={(event) => sortIdeas(store, event.target.value)}
          >
            <option value="">As they came</option>
            {MEASURES.filter(({ line }) => !line || melody).map(({ id, label }) => (
              <option key={id} value={id}>
                By {label.toLowerCase()}
              </option>
            ))}
          </select>
          <button
            className="btn btn-xs h-[24px] min-h-0"
            title="Ideas that have something of both of the two starred last"
            disabled={starred < 2}
            onClick={() => breed(store)}
          >
            Combine the starred
          </button>
        </>
      )}
      <button
        className="btn btn-xs h-[24px] min-h-0"
        {...keyed("The next idea", "next-idea")}
        disabled={empty}
        onClick={() => nextIdea(store, 1)}
      >
        Next idea
      </button>
      <button
        className="btn btn-xs h-[24px] min-h-0"
        title="Generate others with a new seed; starred ones stay"
        onClick={() => others(store)}
      >
        Generate others
      </button>
      <button
        className="btn btn-primary btn-xs h-[24px] min-h-0"
        {...keyed("Write the previewed idea to notes", "apply-idea")}
        disabled={!previewed}
        onClick={() => applyIdea(store)}
      >
        Apply
      </button>
      <button
        className="btn btn-ghost btn-xs h-[24px] min-h-0 w-[24px] px-0"
        aria-label="Close the ideas"
        onClick={close}
      >
        <X size={14} />
      </button>
    </>
  );
}

/** What an idea is sorted by, in figures. */
function figureOf(idea: SheetIdea, sort: string, bars: number, metre: Metre): string {
  const at = MEASURES.findIndex(({ id }) => id === sort);
  if (at < 0 || idea.chords) return "";
  const value = nth(measuresOf({ notes: idea.notes, bars, metre }), at);
  return `${nth(MEASURES, at).label}: ${nth(MEASURES, at).text(value)}`;
}

/** The chords of an idea by name, bar by bar. */
const namesOf = (chords: NonNullable<SheetIdea["chords"]>) =>
  chords
    .slice(0, 16)
    .map(({ name }) => chordText(name))
    .join("  ");

interface CardProps {
  idea: SheetIdea;
  number: number;
  previewed: boolean;
  starred: boolean;
  line: boolean;
  /** What it is sorted by. */
  figure: string;
  bars: number;
  metre: Metre;
  colour: string;
}

const Card = memo(function Card(props: CardProps) {
  const { idea, number, previewed, starred, line, figure, bars, metre, colour } = props;
  const { store } = useDesk();
  return (
    <li
      className={`rounded-box flex items-stretch border ${previewed ? "border-primary bg-primary/10" : "border-base-300"}`}
      onPointerEnter={(event) => event.pointerType === "mouse" && previewIdea(store, idea)}
    >
      <button
        className="min-w-0 flex-1 p-1 text-left"
        aria-pressed={previewed}
        aria-label={`Idea ${number}, ${idea.notes.length} notes, seed ${idea.seed}`}
        title={`${idea.description ? `${idea.description}. ` : ""}Seed ${idea.seed}: click to keep the preview`}
        onFocus={(event) =>
          event.currentTarget.matches(":focus-visible") && previewIdea(store, idea)
        }
        onClick={() => holdIdea(store, idea)}
        onDoubleClick={() => applyIdea(store)}
      >
        <ScorePicture notes={idea.notes} bars={bars} metre={metre} colour={colour} />
        {idea.chords && (
          <span className="block truncate px-0.5 text-[13px] font-semibold whitespace-pre">
            {namesOf(idea.chords)}
          </span>
        )}
        {figure && <span className="block px-0.5 text-[12px] leading-tight">{figure}</span>}
        {idea.description && (
          <span className="quiet block px-0.5 text-[12px] leading-tight">{idea.description}</span>
        )}
      </button>
      <span className="grid grid-cols-2 content-start">
        <button
          className={`grid h-[24px] w-[24px] place-items-center ${starred ? "text-primary" : "quiet"}`}
          aria-pressed={starred}
          aria-label={`Star idea ${number}`}
          title="Keep it with the pattern, at the head of every sheet; more like it come"
          onClick={() => star(store, idea)}
        >
          <Star size={13} fill={starred ? "currentColor" : "none"} />
        </button>
        <button
          className="quiet grid h-[24px] w-[24px] place-items-center"
          aria-label={`Drop idea ${number}`}
          title="Off the sheet: less like this one"
          onClick={() => drop(store, idea)}
        >
          <ThumbsDown size={13} />
        </button>
        {line && (
          <button
            className="quiet grid h-[24px] w-[24px] place-items-center"
            aria-label={`More like idea ${number}`}
            title="More like this one"
            onClick={() => void generate(store, { like: idea })}
          >
            <Shuffle size={13} />
          </button>
        )}
        <button
          className="quiet grid h-[24px] w-[24px] place-items-center"
          aria-label={`Apply idea ${number}`}
          title="Write it to notes"
          onClick={() => {
            holdIdea(store, idea);
            applyIdea(store);
          }}
        >
          <Check size={14} />
        </button>
      </span>
    </li>
  );
});
