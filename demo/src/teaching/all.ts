import { buoys } from './buoys';
import { compass } from './compass';
import type { Script } from './script';
import { tide } from './tide';

export const SCRIPTS: readonly Script[] = [buoys, compass, tide];
