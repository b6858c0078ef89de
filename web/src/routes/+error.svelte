<script lang="ts">
  import { page } from "$app/state";
</script>

<div class="p-8">
  <h1 class="text-2xl">There is no such page</h1>
  <p class="text-quiet">{page.url.pathname}</p>
  <a class="btn mt-4" href="/today">To today’s round</a>
</div>
