import type { Template } from './alphabet';
import { cloudDistance, cloudOf, type Polyline } from './point-cloud';

/** What something may be meant as, and how far it is from the nearest way to write that. */
export interface Choice {
  letter: string;
  distance: number;
}

const CHOICES = 10;

/** Tells letters by the templates that are most like them. */
export class Recogniser {
  constructor(private readonly templates: readonly Template[]) {}

  /** The likeliest first, each letter once. */
  choices(strokes: readonly Polyline[]): Choice[] {
    const cloud = cloudOf(strokes);
    const best = new Map<string, number>();
    let worthKnowing = Infinity;
    for (const template of this.templates) {
      const atMost = Math.min(best.get(template.letter) ?? Infinity, worthKnowing);
      const distance = cloudDistance(cloud, template.cloud, atMost);
      if (distance >= atMost) continue;
      best.set(template.letter, distance);
      if (best.size >= CHOICES) worthKnowing = [...best.values()].sort((one, other) => one - other)[CHOICES - 1];
    }
    return [...best]
      .map(([letter, distance]) => ({ letter, distance }))
      .sort((one, other) => one.distance - other.distance)
      .slice(0, CHOICES);
  }
}
