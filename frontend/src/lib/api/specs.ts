/** What the core says of a field of the build file. */
export interface FigureSpec {
  title: string;
  about?: string;
  quantity?: string;
  low?: number;
  high?: number;
  whole?: boolean;
  /** Whether it can be marked as measured. */
  measurable?: boolean;
  choices?: (string | number)[];
  yesNo?: boolean;
  /** A day of the calendar, as 2026-05-31. */
  day?: boolean;
  longest?: number;
  /** What a field of a part is for, where it is no figure of the thing itself. */
  group?: 'listing' | 'buying' | 'board' | 'mark';
  /** Other names by which it is found. */
  also?: string;
  /** Whether more can be entered than its own figure, such as 10S4P. */
  notation?: boolean;
  /** The term that its title is, where one is explained. */
  term?: string;
}

/** What the core says of a kind of part. */
export interface KindSpec {
  name: string;
  /** Where the build file keeps it. */
  path: string;
  /** The figures that tell one such part from another. */
  deciding: string[];
  /** Whether a board has a list of them. */
  several: boolean;
  /** The kind among which the library has it, where it is none of its own there. */
  shelvedAs?: string;
  /** Other names by which it is found. */
  also: string;
}

/** Build-file value = typed value x factor + offset; for the tangent, 100 tan(typed degrees). */
export interface ConversionSpec {
  factor: number;
  offset: number;
  form: string;
  decimals: number;
}

/** A kind of figure: what it may be shown in, and what else may be typed. */
export interface QuantitySpec {
  unit: string;
  shown: Record<string, ConversionSpec>;
  typed: Record<string, ConversionSpec>;
}

/** A figure that can be dragged, and how far. */
export interface HandleSpec {
  path: string;
  name?: string;
  low: number;
  high: number;
  step: number;
}

/** A step of choosing on the bench, as the core has it. */
export interface StationSpec {
  id: string;
  name: string;
  kinds: string[];
  sections: { field: string; name: string }[];
  remark: string;
  /** Where builders disagree: the question, and each side in its own words. */
  schools: { question: string; one: string; other: string }[];
  handles: HandleSpec[];
}

/** A question in a builder's words, answered by a few figures of the build file. */
export interface QuestionSpec {
  slug: string;
  asks: string;
  why: string;
  fields: string[];
  /** What a field is called there, where its own title leaves open of what it is. */
  labels: Record<string, string>;
}

/** A word of the trade with its explanation. */
export interface TermSpec {
  slug: string;
  title: string;
  text: string;
  also: string;
  fields: string[];
  /** What the drawing of its name shows. */
  drawing?: string;
}
