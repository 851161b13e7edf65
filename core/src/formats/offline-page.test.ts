import fc from 'fast-check';
import { SaxesParser } from 'saxes';
import { describe, expect, it } from 'vitest';
import { CARRIED_ID, type Carried } from '../contract/carried';
import { writeCourseManifest } from './course-package';
import { writeOfflinePage, type OfflinePage } from './offline-page';

const PROGRAM =
  '<!doctype html><html lang="en"><head><title>A lesson</title></head><body><!--carried--><b>play</b></body></html>';

const carriedOf = (title: string): Carried => ({
  token: 'offline-1',
  about: {
    ...{ publication: 'p', title, lengthSamples: 0, pageCount: 1, hasSound: true, hasCaptions: false },
    ...{ mayDownload: false, mayAsk: false, loudness: '', chapters: [], prompts: [], questions: [], isCounted: false },
  },
  files: { '/payload': { type: 'application/octet-stream', base64: 'AAEC' } },
});
const pageOf = (text: string): OfflinePage => ({
  title: text,
  language: 'cy',
  carried: carriedOf(text),
  sound: { type: 'audio/mp4', base64: 'AAAA' },
  pictures: [{ type: 'image/webp', base64: 'BBBB' }],
  lines: [{ kind: 'said', startSeconds: 75, text }],
});
const anyText = fc.oneof(
  fc.string({ unit: 'binary' }),
  fc.constantFrom('</script><script>alert(1)</script>', '<!--', ']]>', '"><img src=x>', '$&$1', '\0\ufffe\ud800'),
);

describe('an offline page', () => {
  it('carries what it plays, whatever that says, and nothing of it becomes a part of the page', () => {
    fc.assert(
      fc.property(anyText, (text) => {
        const html = writeOfflinePage(PROGRAM, pageOf(text)).join('');
        expect(html.startsWith('<!doctype html><html lang="cy"><head><title>')).toBe(true);
        expect(html.endsWith('<b>play</b></body></html>')).toBe(true);
        expect(html.match(/<script/g)).toHaveLength(1);
        expect(html.match(/<img/g)).toHaveLength(1);
        const said = new RegExp(`id="${CARRIED_ID}">([^<]*)</script>`).exec(html)![1];
        expect(JSON.parse(said)).toEqual(JSON.parse(JSON.stringify(carriedOf(text))));
      }),
    );
  });

  it('can be read, seen and heard without script', () => {
    const html = writeOfflinePage(PROGRAM, pageOf('Ease the sheet')).join('');
    expect(html).toContain('<audio controls preload="metadata" src="data:audio/mp4;base64,AAAA">');
    expect(html).toContain('<img alt="Page 1" src="data:image/webp;base64,BBBB">');
    expect(html).toContain('<time>1:15</time> Ease the sheet');
  });

  it('is refused a program that has no place for it', () => {
    expect(() => writeOfflinePage('<html></html>', pageOf('x'))).toThrow(/not there/);
  });
});

describe('the list of a package for course systems', () => {
  it('is XML that names the page, whatever the lesson is called', () => {
    fc.assert(
      fc.property(anyText, (title) => {
        const hrefs: string[] = [];
        const parser = new SaxesParser({ xmlns: true });
        parser.on('error', (error) => {
          throw error;
        });
        parser.on('opentag', ({ local, attributes }) => {
          if (local === 'resource') hrefs.push(attributes.href.value);
        });
        parser.write(writeCourseManifest({ id: 'lesson-1', title, page: 'index.html' })).close();
        expect(hrefs).toEqual(['index.html']);
      }),
    );
  });
});
