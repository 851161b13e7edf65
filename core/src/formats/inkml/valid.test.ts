import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { validateXML } from 'xmllint-wasm';
import { inkPage } from '../../testing/ink-pages';
import { writeInkMl } from './write-inkml';

const read = (name: string) => readFileSync(new URL(`schema/${name}`, import.meta.url), 'utf8');
const SCHEMA = { fileName: 'inkml.xsd', contents: read('inkml.xsd') };
const XML = { fileName: 'xml.xsd', contents: read('xml.xsd') };

/** What libxml2 has to say against documents. */
async function complaintsAbout(documents: readonly string[]): Promise<string[]> {
  const xml = documents.map((contents, n) => ({ fileName: `ink-${n}.xml`, contents }));
  const { errors } = await validateXML({ xml, schema: SCHEMA, preload: XML });
  return errors.map(({ message, loc }) => `${loc?.fileName}: ${message}`);
}

describe('ink that goes out', () => {
  it('is valid by a schema of the Recommendation, whatever was written, as libxml2 sees it', async () => {
    const written = fc.sample(fc.tuple(fc.string({ unit: 'binary' }), fc.array(inkPage, { maxLength: 3 })), {
      numRuns: 60,
    });
    expect(await complaintsAbout(written.map(([title, pages]) => writeInkMl(title, pages)))).toEqual([]);
  });

  it('would be found out if it were not', async () => {
    const ink = (content: string) => `<ink xmlns="http://www.w3.org/2003/InkML">${content}</ink>`;
    const complaints = await complaintsAbout([
      ink('<stroke>1 1</stroke>'),
      ink('<traceFormat/>'),
      ink('<trace timeOffset="soon">1 1</trace>'),
      ink('<definitions><brush xml:id="a"/><brush xml:id="a"/></definitions>'),
    ]);
    for (const n of [0, 1, 2, 3]) expect(complaints.filter((one) => one.startsWith(`ink-${n}.xml`))).not.toEqual([]);
  });
});
