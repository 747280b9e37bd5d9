/** Those who want to hear what is said of a thing, by its id. */
export class Listeners<Said> {
  private readonly all = new Map<string, Set<(said: Said | null) => void>>();

  /** @returns stops listening */
  listen(id: string, hear: (said: Said | null) => void): () => void {
    const here = this.all.get(id) ?? new Set();
    this.all.set(id, here.add(hear));
    return () => {
      here.delete(hear);
      if (here.size === 0 && this.all.get(id) === here) this.all.delete(id);
    };
  }

  say(id: string, said: Said): void {
    for (const hear of this.all.get(id) ?? []) hear(said);
  }

  /** Nothing more will be said: everybody hears `null`. */
  close(): void {
    const everybody = [...this.all.values()].flatMap((here) => [...here]);
    this.all.clear();
    for (const hear of everybody) hear(null);
  }

  get count(): number {
    return [...this.all.values()].reduce((sum, here) => sum + here.size, 0);
  }
}
