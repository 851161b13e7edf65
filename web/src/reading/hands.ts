import type { Hand } from '@kite-trail/core/reading/alphabet';
import EMSAllure from 'hersheytext/svg_fonts/EMSAllure.svg?raw';
import EMSElfin from 'hersheytext/svg_fonts/EMSElfin.svg?raw';
import EMSFelix from 'hersheytext/svg_fonts/EMSFelix.svg?raw';
import EMSNixish from 'hersheytext/svg_fonts/EMSNixish.svg?raw';
import EMSOsmotron from 'hersheytext/svg_fonts/EMSOsmotron.svg?raw';
import EMSReadability from 'hersheytext/svg_fonts/EMSReadability.svg?raw';
import EMSTech from 'hersheytext/svg_fonts/EMSTech.svg?raw';
import HersheySans1 from 'hersheytext/svg_fonts/HersheySans1.svg?raw';
import HersheyScript1 from 'hersheytext/svg_fonts/HersheyScript1.svg?raw';

/** The hands that ship, as SVG fonts. */
export const HAND_FONTS: Record<Hand, string> = {
  EMSAllure,
  EMSElfin,
  EMSFelix,
  EMSNixish,
  EMSOsmotron,
  EMSReadability,
  EMSTech,
  HersheySans1,
  HersheyScript1,
};
