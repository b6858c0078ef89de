<script lang="ts">
  import { page } from "$app/state";
  import { session } from "../session.svelte";
  import { settings } from "../settings.svelte";
  import { keys } from "../keys.svelte";

  const places = [
    { href: "/today", name: "Today", key: "t" },
    { href: "/stoves", name: "Households", key: "h" },
    { href: "/week", name: "Week", key: "w" },
    { href: "/season", name: "Season", key: "s" },
    { href: "/stock", name: "Stock", key: "b" },
    { href: "/firm", name: "Firm", key: "i" },
  ];
  const here = $derived(page.url.pathname);
  // A visit belongs to today's round.
  const current = $derived(
    here.startsWith("/visits")
      ? "/today"
      : here.startsWith("/households")
        ? "/stoves"
        : here === "/parts"
          ? "/stock"
          : here,
  );
</script>

<nav
  aria-label="Main"
  class="no-print bg-rail flex shrink-0 items-center gap-1 text-[#EFE8DB] max-md:w-full md:sticky md:top-0 md:h-screen md:w-22 md:flex-col"
>
  <a href="/today" class="font-display px-3 py-3 text-2xl max-md:px-2 font-bold text-[#F07F3C] max-sm:hidden">
    <span aria-hidden="true">Gr</span><span class="sr-only">Grate, today</span>
  </a>
  {#each places as place (place.href)}
    <a
      href={place.href}
      aria-current={current.startsWith(place.href) ? "page" : undefined}
      class="border-transparent px-1 py-2 text-center text-[13px] max-md:px-1.5 max-sm:px-1 max-sm:text-xs max-sm:leading-7 aria-[current]:border-[#F07F3C] aria-[current]:bg-[#3A342D] max-md:border-b-4 md:w-full md:border-l-4"
      >{place.name}<span class="block text-xs text-[#C9C0B2] max-md:hidden">{place.key}</span></a
    >
  {/each}
  <div class="ml-auto flex items-center gap-1 pb-2 text-xs md:mt-auto md:ml-0 md:flex-col">
    <button
      class="min-h-11 cursor-pointer px-2 py-2 max-md:px-1 max-sm:hidden"
      onclick={() => settings.toggleSystem()}
      title="Units (u)"
    >
      {settings.system === "us" ? "US units" : "Metric"}
    </button>
    <button
      class="min-h-11 cursor-pointer px-2 py-2 max-md:px-1 max-sm:hidden"
      onclick={() => settings.toggleTheme()}
      title="Lamp (o)"
    >
      {settings.theme === "cellar" ? "Enamel" : "Cellar"}
    </button>
    <button class="min-h-11 cursor-pointer px-2 py-2 max-md:hidden" onclick={() => (keys.help = true)} title="Keys (k)"
      >Keys</button
    >
    <a class="px-2 py-2 max-md:px-1 max-sm:leading-7" href="/account">Account</a>
    <button class="min-h-11 cursor-pointer px-2 py-2 whitespace-nowrap max-md:hidden" onclick={() => session.signOut()}
      >Sign out</button
    >
  </div>
</nav>
