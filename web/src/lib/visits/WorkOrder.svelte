<script lang="ts">
  import type { Schema } from "../api/client";

  interface Props {
    order: Schema["WorkTask"][];
    done: string[];
    errors: string[];
    disabled: boolean;
    onchange: (done: string[]) => void;
  }
  let { order, done, errors, disabled, onchange }: Props = $props();

  const missing = (task: Schema["WorkTask"]) => task.needs.filter((need) => !done.includes(need));
  const name = (code: string) => order.find((t) => t.code === code)?.name ?? code;

  // What needs a task that is taken back is taken back with it.
  function tick(code: string, checked: boolean) {
    if (checked) return onchange([...done, code]);
    let left = done.filter((d) => d !== code);
    for (const task of order) {
      if (task.needs.some((need) => !left.includes(need))) left = left.filter((d) => d !== task.code);
    }
    onchange(left);
  }
</script>

<ol class="border-base-300 mt-1 border-t">
  {#each order as task (task.code)}
    {@const waits = missing(task)}
    {@const ticked = done.includes(task.code)}
    <li class="border-base-300 border-b">
      <label class="flex min-h-11 items-center gap-3 py-1 {waits.length && !ticked ? 'text-quiet' : ''}">
        <input
          type="checkbox"
          class="checkbox"
          data-task={task.code}
          checked={ticked}
          disabled={disabled || (waits.length > 0 && !ticked)}
          onchange={(e) => tick(task.code, e.currentTarget.checked)}
        />
        <span class="grow">
          <span class={task.why ? "font-semibold" : ""}>{task.name}</span>
          {#if waits.length && !ticked}
            <span class="block text-sm"
              >waits for: {name(waits[0]!).toLowerCase()}{waits.length > 1
                ? `, and ${waits.length - 1} more`
                : ""}</span
            >
          {:else if task.why && !ticked}
            <span class="text-quiet block text-sm">{task.why}</span>
          {/if}
        </span>
      </label>
    </li>
  {/each}
</ol>
{#each errors as sentence, n (n)}<p class="text-error text-sm">{sentence}</p>{/each}
