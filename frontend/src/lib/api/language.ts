import { MESSAGES } from './messages.gen';
import { HEADINGS } from './tables.gen';

/** A text of the core in the language of this build. */
export const translated = (text: string): string =>
  import.meta.env.SAND_POCKET_LANGUAGE ? (MESSAGES[text] ?? text) : text;

function inLanguage(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(inLanguage);
  return typeof value === 'string' ? translated(value) : withHeadings(value);
}

/** An answer of the API with its headings in that language. */
export function withHeadings(answer: unknown): unknown {
  if (Array.isArray(answer)) return answer.map(withHeadings);
  if (answer === null || typeof answer !== 'object') return answer;
  return Object.fromEntries(
    Object.entries(answer).map(([key, value]) => [
      key,
      HEADINGS.includes(key) ? inLanguage(value) : withHeadings(value),
    ]),
  );
}
