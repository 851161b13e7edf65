import { newAnswer, newQuestion } from '@kite-trail/core/contract/question';
import { json } from '../http/body';
import { route, type Route } from '../http/route';
import { writtenBytes } from '../lessons/lessons';
import { answer, ask, dropQuestion, listQuestions, mayAsk, programmeBytes } from './questions';
import { answerByRecording } from './recorded-answers';

/** What those who watch ask, and what their teachers answer. */
export function questionRoutes(): Route[] {
  return [
    route({
      method: 'post',
      path: '/watch/:token/publications/:publication/questions',
      right: 'the link’s publication, for its holder',
      body: json(newQuestion),
      prepare: async ({ link, publication, body: { atSamples }, work }) => {
        if (!mayAsk(link, publication)) return null;
        const asked = { publication: publication.id, atSamples };
        return work.do('momentIn', `${link.token} asks`, asked, programmeBytes(publication));
      },
      handle: ({ link, publication, body, prepared, db }) => ask(db, link, publication, body, prepared),
    }),
    route({
      method: 'get',
      path: '/lessons/:lesson/questions',
      right: 'the lesson’s teacher',
      handle: ({ lesson, db }) => listQuestions(db, lesson),
    }),
    route({
      method: 'put',
      path: '/lessons/:lesson/questions/:question',
      right: 'the lesson’s teacher',
      body: json(newAnswer),
      handle: async ({ lesson, body, request, db }) => {
        await answer(db, lesson, String(request.params.question), body.answer);
        return listQuestions(db, lesson);
      },
    }),
    route({
      method: 'post',
      path: '/lessons/:lesson/questions/:question/recording',
      right: 'the lesson’s teacher',
      prepare: async ({ lesson, request, db, work }) => {
        const asked = { lesson: lesson.id, question: String(request.params.question) };
        return work.do('gatherAnswerPage', lesson.teacher_id, asked, await writtenBytes(db, lesson.id));
      },
      handle: async ({ teacher, lesson, request, prepared, db }) => ({
        lesson: await answerByRecording(db, teacher.id, lesson, String(request.params.question), prepared),
      }),
    }),
    route({
      method: 'delete',
      path: '/lessons/:lesson/questions/:question',
      right: 'the lesson’s teacher',
      handle: async ({ lesson, request, db }) => {
        await dropQuestion(db, lesson, String(request.params.question));
        return listQuestions(db, lesson);
      },
    }),
  ];
}
