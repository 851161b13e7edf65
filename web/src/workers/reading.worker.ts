import type { OwnLetter } from '@kite-trail/core/contract/pens';
import { plainTemplates, templatesOfFont } from '@kite-trail/core/reading/alphabet';
import { cloudOf, type Polyline } from '@kite-trail/core/reading/point-cloud';
import { read, type Reading } from '@kite-trail/core/reading/reading';
import { Recogniser } from '@kite-trail/core/reading/recogniser';
import { expose } from 'comlink';
import { HAND_FONTS } from '../reading/hands';

const shipped = [...Object.values(HAND_FONTS).flatMap(templatesOfFont), ...plainTemplates()];

/** Reads handwriting by the hands that ship and by the teacher's own. */
const reader = {
  read: (strokes: Polyline[], own: OwnLetter[]): Reading => {
    const taught = own.map((one) => ({ letter: one.letter, cloud: cloudOf(one.strokes) }));
    return read(strokes, new Recogniser([...shipped, ...taught]));
  },
};
export type Reader = typeof reader;

expose(reader);
