/** A field of an account's form. */
export interface AccountField {
  key: 'code' | 'name' | 'email' | 'password' | 'newPassword';
  label: string;
  /** What browsers and password managers know it by (WHATWG HTML, autofill). */
  autocomplete: string;
  type?: 'email';
  hint?: string;
}

export const NAME: AccountField = { key: 'name', label: 'Your name', autocomplete: 'name' };
export const EMAIL: AccountField = { key: 'email', label: 'E-mail address', type: 'email', autocomplete: 'username' };
export const PASSWORD: AccountField = { key: 'password', label: 'Password', autocomplete: 'current-password' };
export const NEW_PASSWORD: AccountField = {
  ...PASSWORD,
  autocomplete: 'new-password',
  hint: 'At least 10 characters, and nothing others would guess.',
};
