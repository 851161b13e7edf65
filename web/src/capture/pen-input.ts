import { InkPoints, type InkSample } from '@kite-trail/core/ink/points';
import { feltPressure, tiltedPressure } from '@kite-trail/core/ink/pressure';
import { SteadyHand } from '@kite-trail/core/ink/steady-hand';
import { SpeedPressure } from '@kite-trail/core/ink/speed-pressure';
import type { Pen } from '@kite-trail/core/lesson/piece';

/** Tells pens of one screen apart (Pointer Events, level 4, `persistentDeviceId`); 0 where nothing can. */
export type PenDevice = number;
export const penDeviceOf = (event: PointerEvent): PenDevice =>
  (event as PointerEvent & { persistentDeviceId?: number }).persistentDeviceId ?? 0;

/** A finger is narrower, a palm or fist broader than this, in CSS pixels: some 17 mm on a tablet (common practice). */
const LEAST_PALM_PX = 64;
/** A hand that is laid down touches with its edge first, and is as broad as it is after this time. */
const LAID_DOWN_MS = 150;
const breadthPx = ({ width, height }: PointerEvent): number => Math.max(width, height);
export const isPalm = (event: PointerEvent): boolean =>
  event.pointerType === 'touch' && breadthPx(event) >= LEAST_PALM_PX;

/** What other tools do is not this file's business. */
export type Tool = { kind: 'write'; pen: Pen } | { kind: 'erase' } | { kind: 'other' };

export interface PlacePt {
  xPt: number;
  yPt: number;
}

/** A stroke while it is being written. Its pen is down since `beganMs` of `performance.now()`. */
export interface WetStroke {
  pen: Pen;
  beganMs: number;
  samples: InkSample[];
  /** It runs along an edge, so it is as straight or round as it is meant to be. */
  isLed: boolean;
}

/** Where something leads a pen that is at a place of the page. */
export type Lead = (at: PlacePt) => PlacePt;

interface PenHandlers {
  /** @param pen which of several pens touches, where they can be told apart */
  tool(pen: PenDevice): Tool;
  /** Whether a palm or fist that is laid on the page rubs out what is under it. */
  palmErases(): boolean;
  /** How hard one must press for a broad line: 0 soft to 1 hard. */
  hardness(): number;
  /** Where on the page a point of the screen is. */
  toPage(clientX: number, clientY: number): PlacePt;
  /** What leads a pen that comes down at a place, such as the edge of a ruler; `null` where nothing does. */
  lead(at: PlacePt): Lead | null;
  /** Wet ink has changed: show it now, in this very frame. */
  wetChanged(): void;
  /** A pen has touched the page. */
  penTouched(): void;
  written(stroke: WetStroke, points: InkPoints): void;
  /** @param palmPx how broad the palm is that rubs; the eraser's own size where none is told */
  erase(from: PlacePt, to: PlacePt, atMs: number, palmPx?: number): void;
  eraseEnded(): void;
}

/** `buttons` of a pen whose other end touches (W3C Pointer Events, section 4.1.1.1). */
const ERASER_BUTTON = 32;
/** `buttons` of a pen whose side button is pressed. */
const SIDE_BUTTON = 2;

interface Contact {
  wet: WetStroke | null;
  /** What rubs, where nothing is written. */
  rubs: 'eraser' | 'palm';
  speed: SpeedPressure;
  steady: SteadyHand;
  last: PlacePt;
  lead: Lead | null;
  hasPressure: boolean;
  isTouch: boolean;
}

/**
 * Turns pointer events into ink: every coalesced sample is kept, with the pressure of a pen or, where the device has
 * none, one from its speed. Several pointers may write at once.
 */
export class PenInput {
  private readonly contacts = new Map<number, Contact>();
  private readonly abort = new AbortController();

  constructor(
    private readonly element: HTMLElement,
    private readonly handlers: PenHandlers,
  ) {
    const options = { signal: this.abort.signal };
    element.addEventListener('pointerdown', (event) => this.down(event), options);
    element.addEventListener('pointermove', (event) => this.move(event), options);
    element.addEventListener('pointerup', (event) => this.up(event), options);
    element.addEventListener('pointercancel', (event) => this.up(event), options);
    element.addEventListener('contextmenu', (event) => event.preventDefault(), options);
    // Without this a touch screen would scroll, and keep some of the pen's samples for itself.
    element.addEventListener('touchstart', (event) => event.preventDefault(), { ...options, passive: false });
  }

  /** The strokes being written just now. */
  get wet(): WetStroke[] {
    return [...this.contacts.values()].flatMap((contact) => contact.wet ?? []);
  }

  /** Whether a pen is on the page just now. */
  get isPenDown(): boolean {
    return [...this.contacts.values()].some((contact) => contact.hasPressure);
  }

  /** What fingers have begun was not meant. */
  dropTouches(): void {
    for (const [id, contact] of this.contacts) {
      if (!contact.isTouch) continue;
      this.contacts.delete(id);
      if (!contact.wet) this.handlers.eraseEnded();
    }
    this.handlers.wetChanged();
  }

  dispose(): void {
    this.abort.abort();
  }

  private down(event: PointerEvent): void {
    const isSide = event.pointerType === 'pen' && event.button === 2;
    if (event.button !== 0 && event.button !== 5 && !isSide) return;
    if (!event.isPrimary && event.pointerType === 'mouse') return;
    const tool = this.handlers.tool(penDeviceOf(event));
    if (tool.kind === 'other') return;
    if (event.pointerType === 'pen') this.handlers.penTouched();
    event.preventDefault();
    this.element.setPointerCapture(event.pointerId);
    const at = this.handlers.toPage(event.clientX, event.clientY);
    const isPalmDown = this.isErasingPalm(event);
    const erases =
      tool.kind === 'erase' ||
      isPalmDown ||
      (event.pointerType === 'pen' && (event.buttons & (ERASER_BUTTON | SIDE_BUTTON)) !== 0);
    const lead = erases ? null : this.handlers.lead(at);
    const begun = { beganMs: event.timeStamp, samples: [], isLed: lead !== null };
    const contact: Contact = {
      wet: erases ? null : { pen: (tool as { pen: Pen }).pen, ...begun },
      rubs: isPalmDown ? 'palm' : 'eraser',
      speed: new SpeedPressure(),
      steady: new SteadyHand(),
      last: at,
      lead,
      hasPressure: event.pointerType === 'pen',
      isTouch: event.pointerType === 'touch',
    };
    this.contacts.set(event.pointerId, contact);
    if (contact.wet) this.sample(contact, event);
    else this.rub(contact, event);
    this.handlers.wetChanged();
  }

  private isErasingPalm(event: PointerEvent): boolean {
    return this.handlers.palmErases() && !this.isPenDown && isPalm(event);
  }

  private rub(contact: Contact, event: PointerEvent): void {
    const at = this.handlers.toPage(event.clientX, event.clientY);
    if (contact.rubs === 'eraser') this.handlers.erase(contact.last, at, event.timeStamp);
    // A palm grows smaller as it is lifted, and is one to its end. Beside a pen that writes it only rests.
    else if (!this.isPenDown) this.handlers.erase(contact.last, at, event.timeStamp, breadthPx(event));
    contact.last = at;
  }

  private move(event: PointerEvent): void {
    const contact = this.contacts.get(event.pointerId);
    if (!contact) return;
    const coalesced = event.getCoalescedEvents?.() ?? [];
    for (const one of coalesced.length > 0 ? coalesced : [event]) this.follow(contact, one);
    if (contact.wet) this.handlers.wetChanged();
  }

  private follow(contact: Contact, event: PointerEvent): void {
    const isLaidDown = contact.wet && event.timeStamp - contact.wet.beganMs <= LAID_DOWN_MS;
    // What the edge of a hand wrote as it was laid down was not meant; a finger that was writing for longer goes on.
    if (isLaidDown && this.isErasingPalm(event)) Object.assign(contact, { wet: null, rubs: 'palm' });
    if (contact.wet) this.sample(contact, event);
    else this.rub(contact, event);
  }

  private sample(contact: Contact, event: PointerEvent): void {
    const { xPx, yPx } = contact.steady.next(event.clientX, event.clientY, event.timeStamp);
    const { xPt, yPt } = this.placeOf(contact, xPx, yPx);
    const sinceMs = event.timeStamp - contact.wet!.beganMs;
    const pressure = contact.hasPressure
      ? this.pressureOf(event, contact.wet!.pen)
      : contact.speed.next(xPt, yPt, event.timeStamp);
    const { tiltX: tiltXDeg, tiltY: tiltYDeg } = event;
    contact.wet!.samples.push({ xPt, yPt, pressure, sinceMs, tiltXDeg, tiltYDeg });
  }

  private placeOf({ lead }: Contact, clientX: number, clientY: number): PlacePt {
    const at = this.handlers.toPage(clientX, clientY);
    return lead ? lead(at) : at;
  }

  private pressureOf({ pressure, tiltX, tiltY }: PointerEvent, { kind }: Pen): number {
    const felt = feltPressure(pressure, this.handlers.hardness());
    return kind === 'pencil' ? tiltedPressure(felt, tiltX, tiltY) : felt;
  }

  private up(event: PointerEvent): void {
    const contact = this.contacts.get(event.pointerId);
    if (!contact) return;
    this.contacts.delete(event.pointerId);
    if (contact.wet) this.end(contact, contact.wet, event);
    else this.handlers.eraseEnded();
    this.handlers.wetChanged();
  }

  /** A stroke ends where the pen leaves the page, which the steadied one is a little behind of. */
  private end(contact: Contact, wet: WetStroke, event: PointerEvent): void {
    const place = this.placeOf(contact, event.clientX, event.clientY);
    const sinceMs = event.timeStamp - wet.beganMs;
    if (event.type === 'pointerup') wet.samples.push({ ...wet.samples.at(-1)!, ...place, sinceMs });
    this.handlers.written(wet, InkPoints.from(wet.samples));
  }
}
