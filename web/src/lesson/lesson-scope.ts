import { effectScope, hasInjectionContext, inject, provide, reactive, type InjectionKey, type Ref } from 'vue';

/** What a part of an open lesson shows: its refs read and written as plain values, as in a Pinia store. */
type Shown<State> = {
  [Name in keyof State]: State[Name] extends Ref<infer Now, infer Set> ? Now | (Set & Now) : State[Name];
};

/**
 * All that belongs to one open lesson. A part of it is made when it is first asked for, and all end together: no watcher,
 * listener or value of one lesson is there when the next one is opened.
 */
export class LessonScope {
  private readonly effects = effectScope(true);
  private readonly parts = new Map<() => object, unknown>();

  /** The one part of this lesson that a function makes. */
  part<State extends object>(make: () => State): Shown<State> {
    const made = this.parts.get(make) ?? this.within(() => this.effects.run(() => reactive(make())));
    this.parts.set(make, made);
    return made as Shown<State>;
  }

  /** Does something in which parts of this lesson are asked for. */
  within<Result>(work: () => Result): Result {
    return within(this, work);
  }

  /** Stops whatever its parts watch, and calls what they have for their end (`onScopeDispose`). */
  end(): void {
    this.effects.stop();
  }
}

const KEY: InjectionKey<LessonScope> = Symbol('the lesson that is open');

function within<Result>(scope: LessonScope, work: () => Result): Result {
  const before = making;
  making = scope;
  try {
    return work();
  } finally {
    making = before;
  }
}

/** While a part is made, the parts it asks for belong to the same lesson. */
let making: LessonScope | null = null;

/** A scope that is used where nothing is provided, as in tests. */
let otherwise: LessonScope | null = null;
export const useOtherwise = (scope: LessonScope): void => void (otherwise = scope);

/** Opens a scope for the lesson that a screen shows; what lies in the screen finds it. */
export function provideLesson(): LessonScope {
  const scope = new LessonScope();
  provide(KEY, scope);
  return scope;
}

/**
 * States a part of an open lesson: what it is made of, as a Pinia store does.
 * @returns a composable that gives the part of the lesson a component, or another part, belongs to
 */
export function ofLesson<State extends object>(make: () => State): () => Shown<State> {
  return () => {
    const scope = making ?? (hasInjectionContext() ? inject(KEY, otherwise) : otherwise);
    if (!scope) throw new Error('There is no lesson open here.');
    return scope.part(make);
  };
}
