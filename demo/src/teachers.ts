/** Who teaches at the demo's boat school. */
export const DEMO_TEACHER = { name: 'Marit Skagen', email: 'marit@sandhaven.example', password: 'follow-the-tide' };

/** By which name and password the school's shared drive knows its teachers. */
export const DRIVE_USERS = [
  { userName: 'marit', password: 'cleat-hitch' },
  { userName: 'jonas', password: 'sheet-bend' },
];

/** Who teaches there, too, and has not begun yet. */
export const DEMO_COLLEAGUE = {
  name: 'Jonas Lind',
  email: 'jonas@sandhaven.example',
  password: 'reef-before-the-squall',
};
