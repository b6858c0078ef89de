<script lang="ts">
  import { api, failure, reply, type Schema } from "../api/client";
  import { dayOf } from "../dates";
  import { tables } from "../tables.svelte";

  /** What households said from outside: the pressing ones red and first, until somebody has seen them. */
  interface Props {
    lines: Schema["InboxLine"][];
    emergencyNumber: string;
    time: (iso: string) => string;
    onseen: () => void;
  }
  let { lines, emergencyNumber, time, onseen }: Props = $props();
  let failed = $state("");

  const urgent = (line: Schema["InboxLine"]) => tables.all?.emergencies.some((e) => e.kind === line.kind) ?? false;
  async function seen(line: Schema["InboxLine"]) {
    failed = failure(await reply(api.POST("/api/inbox/{id}/seen", { params: { path: { id: line.id } } })));
    if (!failed) onseen();
  }
</script>

{#if lines.length}
  <section class="mt-4" aria-labelledby="inbox">
    <h2 id="inbox" class="text-lg">From outside</h2>
    {#if failed}<p role="alert" class="text-error">{failed}</p>{/if}
    <ul class="space-y-2">
      {#each lines as line (line.id)}
        {@const danger = urgent(line) && !line.seenAt}
        <li
          class="bg-base-100 border-l-8 px-4 py-2 {danger ? 'border-error' : 'border-base-300'}"
          data-inbox={line.kind}
        >
          <p>
            <strong class={danger ? "text-error text-lg" : ""}>{tables.word("inboxKind", line.kind)}</strong>
            {line.text ? `“${line.text}”` : ""}
          </p>
          <p class="text-sm">
            <a class="link" href="/stoves/{line.applianceId}">{line.customer}, {line.street}, {line.place}</a>
            {#if line.phone}<a class="link" href="tel:{line.phone}">{line.phone}</a>{/if}
            <span class="text-quiet">{dayOf(line.at)}, {time(line.at)}</span>
          </p>
          {#if danger}<p class="text-sm font-semibold">
              {emergencyNumber ? `Emergency number ${emergencyNumber}. ` : ""}{tables.all?.emergencies.find(
                (e) => e.kind === line.kind,
              )?.tell}
            </p>{/if}
          {#if line.seenAt}
            <p class="text-quiet text-sm">Seen by {line.seenBy}, {dayOf(line.seenAt)}, {time(line.seenAt)}.</p>
          {:else}
            <div class="mt-1 flex flex-wrap gap-2">
              <a class="btn btn-sm min-h-11" href="/call?stove={line.applianceId}">Make it a call</a>
              {#if line.visitId}<a class="btn btn-sm min-h-11" href="/visits/{line.visitId}">The visit</a>{/if}
              <button type="button" class="btn btn-sm min-h-11" onclick={() => seen(line)}>Seen</button>
            </div>
          {/if}
        </li>
      {/each}
    </ul>
  </section>
{/if}
