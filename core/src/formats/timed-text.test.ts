import fc from 'fast-check';
import { parseText } from 'media-captions';
import { describe, expect, it } from 'vitest';
import { FormatError } from './bytes';
import { readTimedText, writeSubRip, writeWebVtt, type TimedText } from './timed-text';

/** The forms that the W3C WebVTT specification shows in its introduction (sections 1.1 to 1.5), with words of our own. */
const EXAMPLES = {
  'with voices': `WEBVTT

00:11.000 --> 00:13.000
<v Harbour Master>The tide has turned

00:13.000 --> 00:16.000
<v.loud Harbour Master>We shall be <i>afloat</i> by &lt;noon&gt; &amp; under way`,
  'with settings': `WEBVTT

00:00:00.000 --> 00:00:04.000 position:10%,line-left align:left size:35%
Where does she lie?

00:00:03.000 --> 00:00:06.500 position:90% align:right size:35%
At the quay.
Two cables off.`,
  'with notes, styles and regions': `WEBVTT - a trip round the bay

REGION
id:below
width:40%

STYLE
::cue {
  color: papayawhip;
}

NOTE This was written by the bosun.

1
00:00.000 --> 00:02.000
All aboard

NOTE
Nothing after this
is read.

crossing - the second
99:00:00.000 --> 99:00:02.000 region:below
Still at sea`,
  'with what is broken': `WEBVTT

00:02.000 --> 00:01
Not a time

00:05.000 --> 00:06.000
Heard

just a name`,
};

/** What a parser of others makes of it. */
async function reference(text: string, type: 'vtt' | 'srt'): Promise<TimedText[]> {
  const { cues } = await parseText(text, { type, strict: false });
  return cues.map((cue) => ({
    startMs: Math.round(cue.startTime * 1000),
    endMs: Math.round(cue.endTime * 1000),
    text: cue.text,
  }));
}
const times = (cues: readonly TimedText[]) => cues.map(({ startMs, endMs }) => [startMs, endMs]);

const line = fc
  .string({ unit: fc.constantFrom(...'abc &<>–é:.,-0123 \u00A0'), minLength: 1, maxLength: 20 })
  .map((one) => one.trim())
  .filter((one) => one !== '' && !one.includes('-->'));
const cues = fc
  .array(
    fc.tuple(fc.nat(20_000_000), fc.integer({ min: 1, max: 9000 }), fc.array(line, { minLength: 1, maxLength: 3 })),
    { minLength: 1, maxLength: 8 },
  )
  .map((all) =>
    all
      .map(([startMs, length, lines]) => ({ startMs, endMs: startMs + length, text: lines.join('\n') }))
      .sort((a, b) => a.startMs - b.startMs),
  );

describe('WebVTT', () => {
  it('is read as a parser of others reads it, in every form that the specification shows', async () => {
    for (const [name, text] of Object.entries(EXAMPLES)) {
      const read = readTimedText(text);
      expect(times(read), name).toEqual(times(await reference(text, 'vtt')));
    }
    expect(readTimedText(EXAMPLES['with voices'])[1].text).toBe('We shall be afloat by <noon> & under way');
    expect(readTimedText(EXAMPLES['with settings'])[1].text).toBe('At the quay.\nTwo cables off.');
    expect(readTimedText(EXAMPLES['with notes, styles and regions'])).toEqual([
      { startMs: 0, endMs: 2000, text: 'All aboard' },
      { startMs: 356_400_000, endMs: 356_402_000, text: 'Still at sea' },
    ]);
    // Not every parser knows that a line with an arrow begins a cue (section 6.2), nor that hours have two digits or more.
    const [first, second] = readTimedText('WEBVTT\n\n00:05.000 --> 00:06.000\nHeard\n00:06.000 --> 00:07.000\ngapless');
    expect([first.text, second.text]).toEqual(['Heard', 'gapless']);
    expect(times(readTimedText('WEBVTT\n\n100:00:00.000 --> 100:00:02.000\nAt sea'))).toEqual([
      [360_000_000, 360_002_000],
    ]);
  });

  it('reads back as it was written, here and elsewhere', async () => {
    await fc.assert(
      fc.asyncProperty(cues, async (made) => {
        const written = writeWebVtt(made);
        expect(readTimedText(written)).toEqual(made);
        expect(readTimedText(`\uFEFF${written.replaceAll('\n', '\r\n')}`)).toEqual(made);
        expect(times(await reference(written, 'vtt'))).toEqual(times(made));
      }),
    );
  });

  it('may hold nothing', () => {
    expect(readTimedText('WEBVTT')).toEqual([]);
    expect(readTimedText(writeWebVtt([]))).toEqual([]);
  });
});

describe('SubRip', () => {
  it('reads back as it was written, here and elsewhere', async () => {
    await fc.assert(
      fc.asyncProperty(cues, async (made) => {
        // SubRip has no way to write what looks like a tag or an entity.
        const marked = made.map((cue) => ({ ...cue, text: cue.text.replace(/[<>&]/g, '+') }));
        const written = writeSubRip(marked);
        expect(readTimedText(written)).toEqual(marked);
        expect(await reference(written, 'srt')).toEqual(marked);
      }),
    );
  });
});

describe('other files', () => {
  it.each(['', 'Just a letter home.', 'WEBVTTX\n\nno times', '{\\rtf1}'])('are refused with a message: %s', (text) => {
    expect(() => readTimedText(text)).toThrow(FormatError);
    expect(() => readTimedText(text)).toThrow(/WEBVTT/);
  });

  it('of any kind do no harm', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        try {
          readTimedText(text);
        } catch (error) {
          expect(error).toBeInstanceOf(FormatError);
        }
      }),
    );
  });
});
