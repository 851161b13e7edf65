import { FormatError } from '../bytes';
import type { InkFile, InkTrace } from './ink-file';
import { DEFAULT_SETTING, Settings, type Setting } from './settings';
import { evenForces, goOn, isForceOpen, traceOf } from './traces';
import { childrenNamed, readXml, type Element } from './xml';

/** What one file may have: as many as a very full lesson. */
const MOST_TRACES = 100_000;

/**
 * Reads the ink of an InkML document: traces with where, how strongly and when they were written, as far as it says. What is drawn with the
 * pen in the air is left out, and what continues an earlier trace is joined with it. Mappings that are not affine are not followed.
 * Source: W3C Recommendation "Ink Markup Language (InkML)", 20 September 2011; section numbers in this folder are from memory.
 * @throws FormatError where it is no InkML, or damaged
 */
export function readInkMl(source: string): InkFile {
  const ink = readXml(source, 'InkML');
  if (ink.name !== 'ink') throw new FormatError('This is no InkML file: it does not begin with “ink”.');
  return new Reading(ink).file;
}

class Reading {
  readonly file: InkFile = { title: null, traces: [] };
  private readonly settings: Settings;
  private readonly traces = new Map<string, InkTrace>();
  /** Those whose forces have no limits. */
  private readonly open: InkTrace[] = [];

  constructor(ink: Element) {
    this.settings = new Settings(ink);
    const title = childrenNamed(ink, 'annotation').find(({ attributes }) => attributes.get('type') === 'title');
    this.file.title = title?.text.trim() || null;
    this.readGroup(ink, DEFAULT_SETTING);
    evenForces(this.open);
  }

  private readGroup(group: Element, around: Setting): void {
    let setting = around;
    for (const child of group.children) {
      // In a stream, a context holds for all that follows (section 5.2).
      if (child.name === 'context') setting = this.settings.ofContext(child, setting);
      else if (child.name === 'traceGroup') this.readGroup(child, this.settings.within(child, setting));
      else if (child.name === 'trace') this.readTrace(child, this.settings.within(child, setting));
    }
  }

  private readTrace(element: Element, setting: Setting): void {
    if (element.attributes.get('type') === 'penUp' || element.text.trim() === '') return;
    const prior = this.traces.get((element.attributes.get('priorRef') ?? '').replace(/^#/, ''));
    const trace = traceOf(element, setting);
    const goesOn = prior !== undefined && element.attributes.has('continuation');
    if (goesOn) goOn(prior, trace);
    else this.add(trace);
    if (!goesOn && isForceOpen(setting)) this.open.push(trace);
    const id = element.attributes.get('id');
    if (id !== undefined) this.traces.set(id, goesOn ? prior : trace);
  }

  private add(trace: InkTrace): void {
    if (this.file.traces.length >= MOST_TRACES) {
      throw new FormatError(`This InkML file has more than ${MOST_TRACES.toLocaleString('en')} traces. Split it.`);
    }
    this.file.traces.push(trace);
  }
}
