<!-- @component
	The trade's ring sizes, to choose one from.
-->
<script lang="ts">
	import type { Trade } from '../lib/api/client';
	import { millimetres } from '../lib/units/format';

	let { sizes }: { sizes: Trade['sizes'] } = $props();
</script>

{#each sizes as s (s.size)}
	<option value={s.size}
		>{s.size}: {millimetres(s.outer_m)} × {millimetres(s.inner_m)} × {millimetres(
			s.height_m
		)}</option
	>
{/each}
