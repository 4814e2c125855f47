// The search field of the palette, before and after the rest of it has come.
export const SEARCH =
  "field !min-h-[60px] !rounded-none !border-0 !border-b-[1.5px] !border-ink !px-5 text-[20px] focus-visible:!outline-offset-[-3px]";
