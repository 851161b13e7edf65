import { SaxesParser } from 'saxes';
import { FormatError } from '../bytes';

/** An element of an XML document, without its namespace. */
export interface Element {
  name: string;
  /** By their names without a prefix. */
  attributes: ReadonlyMap<string, string>;
  children: Element[];
  /** What stands in it, but not in its children. */
  text: string;
}

/** No document of ink is nested as deeply. */
const MOST_DEPTH = 100;

/**
 * Reads an XML document (W3C XML 1.0 and Namespaces in XML 1.0). Nothing from elsewhere is fetched, and no entities are defined: a document
 * with a document type is refused.
 * @param kind what the document should be, for whoever is told that it is not
 * @throws FormatError where it is not well-formed
 */
export function readXml(source: string, kind: string): Element {
  const parser = new SaxesParser({ xmlns: true });
  const top: Element = { name: '', attributes: new Map(), children: [], text: '' };
  const open = [top];
  parser.on('error', () => {
    throw new FormatError(`This ${kind} file is damaged: it is not well-formed at line ${parser.line}.`);
  });
  parser.on('doctype', () => {
    throw new FormatError(`This ${kind} file defines a document type, which is not read. Save it without.`);
  });
  parser.on('opentag', ({ local, attributes }) => {
    const named = Object.values(attributes).map((one): [string, string] => [one.local, one.value]);
    const element: Element = { name: local, attributes: new Map(named), children: [], text: '' };
    if (open.length > MOST_DEPTH) throw new FormatError(`This ${kind} file is nested too deeply to be read.`);
    open.at(-1)!.children.push(element);
    open.push(element);
  });
  parser.on('closetag', () => void open.pop());
  const hear = (text: string) => void (open.at(-1)!.text += text);
  parser.on('text', hear);
  parser.on('cdata', hear);
  parser.write(source).close();
  return top.children[0];
}

export const childrenNamed = ({ children }: Element, name: string): Element[] =>
  children.filter((one) => one.name === name);

export const childNamed = ({ children }: Element, name: string): Element | undefined =>
  children.find((one) => one.name === name);
