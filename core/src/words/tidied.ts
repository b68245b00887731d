const EDGES = /^[\s\-–,|:]+|[\s\-–,|:]+$/g;
/** A sign that divides, with what belongs between it and the next one gone. */
const TWICE = /(\s[-–|]|[,:])(?:\s*[-–|,:])+(?=\s|$)/g;

/** A text without double spaces, signs that divide nothing, and what is left over at its ends (domain practice: ` - , | :`). */
export const tidied = (text: string): string =>
  text
    .replace(/\(\s*\)/g, '')
    .replace(/\s+/g, ' ')
    .replace(TWICE, '$1')
    .replace(EDGES, '');
