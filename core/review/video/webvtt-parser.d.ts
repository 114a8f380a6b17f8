/** The part of W3C's WebVTT parser that the tests ask; the package has no types of its own. */
declare module 'webvtt-parser' {
  export class WebVTTParser {
    parse(
      text: string,
      mode?: 'metadata' | 'chapters',
    ): {
      cues: { startTime: number; endTime: number; text: string }[];
      errors: { message: string; line: number }[];
    };
  }
}
