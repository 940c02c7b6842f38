/**
 * Whether something is open beside a control that a press elsewhere closes. Such a press does only that: it is
 * no stroke on what it happens to meet.
 */
export const isPopoverOpen = (): boolean =>
  document.querySelector("[data-popover][data-state=open]") !== null;
