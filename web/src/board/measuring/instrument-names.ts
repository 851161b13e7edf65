import type { Instrument } from '@kite-trail/core/lesson/content';

export const INSTRUMENT_NAMES: Record<Instrument, string> = {
  ruler: 'Ruler',
  'set-square': 'Set square',
  protractor: 'Protractor',
  compasses: 'Compasses',
};
