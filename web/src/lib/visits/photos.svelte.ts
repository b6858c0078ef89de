import { del, entries, set } from "idb-keyval";
import { ask, failure, reply, sentences } from "../api/client";
import { tables } from "../tables.svelte";
import { uuid7 } from "../uuid";

/** Where a photo is read, kept and taken away. */
export const photoAddress = (photo: { id: string; visitId: string }) =>
  `/api/visits/${photo.visitId}/photos/${photo.id}`;

/** Where a photo belongs. */
export interface PhotoPlace {
  step: string;
  station: string;
  part: string;
}

/** A photo that the server does not have yet. */
export interface WaitingPhoto extends PhotoPlace {
  id: string;
  url: string;
  /** Why it was refused; it is not sent again by itself then. */
  refused: string;
  /** Whether this browser has kept it: null until it is known. Only then does it outlive a reload. */
  kept: boolean | null;
}

const retry = 5000;

/** Photos on their way: kept in this browser until the server has them, through a reload and without a network. */
export class PhotoTray {
  waiting = $state<WaitingPhoto[]>([]);
  private files: Record<string, Blob> = {};
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending = false;

  constructor(
    private readonly visitId: string,
    private readonly onKept: () => Promise<void>,
  ) {
    void this.comeBack();
  }

  /** Takes photos of a part. */
  async add(place: PhotoPlace, files: Iterable<File>) {
    for (const file of files) this.wait(uuid7(), { ...place }, file);
    await this.send();
  }

  /** Forgets one that was refused, or is not wanted after all. */
  drop(id: string) {
    const photo = this.waiting.find((w) => w.id === id);
    if (photo) URL.revokeObjectURL(photo.url);
    this.waiting = this.waiting.filter((w) => w.id !== id);
    delete this.files[id];
    void del(this.key(id)).catch(() => {});
  }

  /** Sends one again that was refused. */
  async again(id: string) {
    const photo = this.waiting.find((w) => w.id === id);
    if (photo) photo.refused = this.tooLarge(this.files[id]!);
    await this.send();
  }

  /** Takes one away that the server has; says why it could not. */
  async remove(id: string): Promise<string> {
    const answer = await reply(ask("DELETE", this.address(id)));
    if (answer.kind === "ok") await this.onKept();
    return failure(answer);
  }

  private address = (id: string) => photoAddress({ id, visitId: this.visitId });

  private key = (id: string) => `grate.photo.${this.visitId}.${id}`;

  private wait(id: string, place: PhotoPlace, file: Blob) {
    this.files[id] = file;
    this.waiting.push({ ...place, id, url: URL.createObjectURL(file), refused: this.tooLarge(file), kept: null });
    // A browser that keeps nothing still sends it, and says so.
    const keeps = (kept: boolean) => {
      const photo = this.waiting.find((w) => w.id === id);
      if (photo) photo.kept = kept;
    };
    void set(this.key(id), { place, file }).then(
      () => keeps(true),
      () => keeps(false),
    );
  }

  // A server that is sent too much may hang up before it has said so.
  private tooLarge(file: Blob): string {
    const limit = tables.all?.photos;
    return limit && file.size > limit.mostBytes ? limit.tooLarge : "";
  }

  private async comeBack() {
    const start = `grate.photo.${this.visitId}.`;
    const kept = await entries<string, { place: PhotoPlace; file: Blob }>().catch(() => []);
    for (const [key, { place, file }] of kept) {
      if (key.startsWith(start)) this.wait(key.slice(start.length), place, file);
    }
    await this.send();
  }

  private async send() {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.timer);
    let kept = false;
    for (let next; (next = this.waiting.find((w) => !w.refused));) {
      const place = `step=${next.step}&station=${next.station}&part=${encodeURIComponent(next.part)}`;
      const answer = await reply(ask("PUT", `${this.address(next.id)}?${place}`, this.files[next.id]));
      if (answer.kind === "away") {
        this.timer = setTimeout(() => void this.send(), retry);
        break;
      }
      if (answer.kind === "problem") next.refused = sentences(answer.problem)[0]!;
      else {
        this.drop(next.id);
        kept = true;
      }
    }
    this.sending = false;
    if (kept) await this.onKept();
  }
}
