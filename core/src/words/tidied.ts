const EDGES = /^[\s\-–,|:]+|[\s\-–,|:]+$/g;
/** A sign that divides, with what belongs between it and the next one gone. */
const TWICE = /(\s[-–|]|[,:])(?:\s*[-–|,:])+(?=\s|$)/g;

const once = (text: string): string =>
  text
    .replace(/\(\s*\)/g, '')
    .replace(/\s+/g, ' ')
    .replace(TWICE, '$1')
    .replace(EDGES, '');

/**
 * A text without double spaces, empty brackets, signs that divide nothing, and what is left over at its ends (domain practice:
 * ` - , | :`). What goes may leave others with nothing between them, so that it is looked through until nothing goes any more.
 */
export function tidied(text: string): string {
  for (let before = text; ;) {
    const after = once(before);
    // No pass makes it longer.
    if (after === before) return after;
    before = after;
  }
}
