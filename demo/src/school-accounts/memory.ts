import type { Adapter, AdapterPayload } from 'oidc-provider';

/** What the stand-in remembers: as long as it runs, and nowhere else. */
export class Memory implements Adapter {
  private static readonly kept = new Map<string, { payload: AdapterPayload; untilMs: number }>();

  constructor(private readonly kind: string) {}

  private named = (id: string): string => `${this.kind} ${id}`;

  async upsert(id: string, payload: AdapterPayload, expiresIn: number): Promise<void> {
    Memory.kept.set(this.named(id), { payload, untilMs: Date.now() + expiresIn * 1000 });
  }

  async find(id: string): Promise<AdapterPayload | undefined> {
    const found = Memory.kept.get(this.named(id));
    return found && found.untilMs > Date.now() ? found.payload : undefined;
  }

  async findByUid(uid: string): Promise<AdapterPayload | undefined> {
    const all = [...Memory.kept].filter(([name]) => name.startsWith(`${this.kind} `));
    return all.map(([, { payload }]) => payload).find((payload) => payload.uid === uid);
  }

  async findByUserCode(): Promise<undefined> {
    return undefined;
  }

  async consume(id: string): Promise<void> {
    const found = Memory.kept.get(this.named(id));
    if (found) found.payload.consumed = Math.floor(Date.now() / 1000);
  }

  async destroy(id: string): Promise<void> {
    Memory.kept.delete(this.named(id));
  }

  async revokeByGrantId(grantId: string): Promise<void> {
    for (const [name, { payload }] of Memory.kept) if (payload.grantId === grantId) Memory.kept.delete(name);
  }
}
