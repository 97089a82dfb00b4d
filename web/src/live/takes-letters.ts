/** Whether keys pressed here are letters of a text. */
export function takesLetters(target: EventTarget | null): boolean {
  return (
    // An open list of words, or a month, takes letters and arrows itself.
    (target instanceof Element &&
      target.closest("[role=listbox], [role=dialog], [role=slider]") !== null) ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLInputElement
  );
}
