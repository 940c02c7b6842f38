"use client";
import { Command } from "cmdk";
import { useState } from "react";
import { useDesk } from "../session/context";
import { useRequest } from "../session/requested";
import { shownKey } from "../person/keys";
import { scoreOf } from "../controls/find";
import { ACTIONS } from "./registry";

const BY_ID = new Map(ACTIONS.map((action) => [action.id, action]));
const GROUPS = [...new Set(ACTIONS.map((action) => action.group))];

/** Everything that can be done, by name, with its key: opened with a key. */
export function Palette() {
  const desk = useDesk();
  const [open, setOpen] = useState(false);
  useRequest("palette", () => setOpen(true));
  return (
    <Command.Dialog
      open={open}
      onOpenChange={setOpen}
      label="All actions"
      data-palette
      filter={(id, search) => {
        // Headings of groups are asked for too: they go with what they head.
        const action = BY_ID.get(id);
        return action ? scoreOf(action, search) : 1;
      }}
      className="rounded-box fixed top-[12vh] left-1/2 z-50 flex max-h-[70vh] w-[34rem] max-w-[92vw] -translate-x-1/2 flex-col overflow-hidden border border-base-300 bg-base-100 shadow-2xl"
      overlayClassName="fixed inset-0 z-40 bg-black/30"
    >
      <Command.Input
        placeholder="Find an action"
        className="border-b border-base-300 bg-transparent px-4 py-3 text-[15px] outline-none"
      />
      <Command.List className="overflow-y-auto p-2">
        <Command.Empty className="quiet p-4">No matching action</Command.Empty>
        {GROUPS.map((group) => (
          <Command.Group
            key={group}
            heading={group}
            className="[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:text-[var(--sheet-quiet)]"
          >
            {ACTIONS.filter((action) => action.group === group).map((action) => (
              <Command.Item
                key={action.id}
                value={action.id}
                className="flex cursor-pointer items-center justify-between rounded-lg px-2 py-1.5 data-[selected=true]:bg-primary/15"
                onSelect={() => {
                  setOpen(false);
                  action.run(desk);
                }}
              >
                {action.label}
                {shownKey(action.id) && (
                  <kbd className="figure quiet text-[12px]">{shownKey(action.id)}</kbd>
                )}
              </Command.Item>
            ))}
          </Command.Group>
        ))}
      </Command.List>
    </Command.Dialog>
  );
}
