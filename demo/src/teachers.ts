/** Who teaches at the demo's boat school. */
export const DEMO_TEACHER = { name: 'Marit Skagen', email: 'marit@sandhaven.example', password: 'follow-the-tide' };

/** Who teaches there, too, and has not begun yet. */
export const DEMO_COLLEAGUE = {
  name: 'Jonas Lind',
  email: 'jonas@sandhaven.example',
  password: 'reef-before-the-squall',
};
