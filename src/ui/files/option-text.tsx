/** A choice in words, with what it does under it. */
export const Said = ({ label, about }: { label: string; about: string }) => (
  <>
    <span className="block font-semibold">{label}</span>
    <span className="quiet block text-[12px] leading-snug font-normal">{about}</span>
  </>
);
