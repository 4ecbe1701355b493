/** A text of the settings with its words filled in; a word that is not known stays, so that it is seen. */
export function fillIn(text: string, words: Record<string, string>): string {
  return text.replace(/\{([a-z_]+)\}/g, (whole, word: string) => words[word] ?? whole);
}
