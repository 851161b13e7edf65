import { editState } from '@kite-trail/core/contract/edition';
import { changed, lesson } from '@kite-trail/core/contract/lesson';
import { idempotencyKey } from '@kite-trail/core/contract/protocol';
import { call } from '../server/call';
import { toBase64 } from '../server/base64';
import { upload } from '../server/upload';
import type { Entry, Owed } from './entry';
import type { Answer, School } from './school';

const MOST_NAME_LETTERS = 200;

/** The school by its server. */
export const httpSchool: School = {
  async send({ key, lesson: of, madeIn, head }: Entry, payload: Owed['payload']): Promise<Answer> {
    const owed = { ...head, payload } as Owed;
    const said = { [idempotencyKey.HEADER]: idempotencyKey.write(key), 'x-window': madeIn };
    switch (owed.kind) {
      case 'file': {
        const { asset, payload: file } = owed;
        const name = owed.name.slice(0, MOST_NAME_LETTERS);
        await upload(asset, file, () => call('POST', `/lessons/${of}/assets`, { asset, name }, said));
        return { to: 'other' };
      }
      case 'changes': {
        const [marks, history] = [toBase64(owed.payload.marks), toBase64(owed.payload.history)];
        const answer = await call('POST', `/lessons/${of}/changes`, { revision: owed.revision, marks, history }, said);
        return { to: 'changes', ...changed.parse(await answer.json()) };
      }
      case 'take': {
        const { take: id, hasSound, plan, revision } = owed;
        await call('POST', `/lessons/${of}/takes`, { id, hasSound, plan, revision }, said);
        return { to: 'other' };
      }
      case 'part':
        await call('PUT', `/takes/${owed.take}/parts/${owed.n}`, owed.payload, said);
        return { to: 'other' };
      case 'end': {
        const { parts, recover, plan } = owed;
        const answer = await call('POST', `/takes/${owed.take}/end`, { parts, recover, plan }, said);
        return { to: 'end', lesson: lesson.parse(await answer.json()) };
      }
      case 'profile':
        await call('PUT', `/takes/${owed.take}/profile`, owed.payload, said);
        return { to: 'other' };
      case 'name':
        await call('PUT', `/lessons/${of}/name`, owed.payload, said);
        return { to: 'other' };
      case 'hand-in':
        await call('POST', `/works/${of}/hand-in`, owed.payload, said);
        return { to: 'other' };
      case 'edit': {
        const body = { from: owed.from, edition: owed.payload };
        const answer = await call('PUT', `/lessons/${of}/edition`, body, said);
        return { to: 'step', state: editState.parse(await answer.json()) };
      }
      case 'undo':
      case 'redo': {
        const answer = await call('POST', `/lessons/${of}/edition/${owed.kind}`, { from: owed.from }, said);
        return { to: 'step', state: editState.parse(await answer.json()) };
      }
    }
  },

  async stands(of) {
    const { revision, edit } = lesson.parse(await (await call('GET', `/lessons/${of}`)).json());
    return { revision, edit };
  },
};
