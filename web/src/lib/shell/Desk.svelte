<!-- @component
	The three columns of a desk: the drop, the pictures, the verdict. On narrow screens one column: verdict, pictures, drop.
-->
<script lang="ts">
	import type { Snippet } from 'svelte';

	interface Props {
		drop: Snippet;
		pictures: Snippet;
		verdict: Snippet;
	}

	let { drop, pictures, verdict }: Props = $props();
</script>

<div class="desk">
	<aside class="left" aria-label="Antenna system">{@render drop()}</aside>
	<div class="middle">{@render pictures()}</div>
	<aside class="right" aria-label="Verdict and next steps">{@render verdict()}</aside>
</div>

<style>
	.desk {
		display: grid;
		grid-template-columns: 256px minmax(0, 1fr) 306px;
		gap: 14px;
	}
	.left {
		display: grid;
		position: sticky;
		top: 8px;
		height: calc(100vh - 112px);
		min-height: 480px;
		max-height: 760px;
	}
	.middle,
	.right {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 11px;
		align-content: start;
		min-width: 0;
	}
	@media (max-width: 1050px) {
		.desk {
			grid-template-columns: 1fr;
		}
		.right {
			order: 1;
		}
		.middle {
			order: 2;
		}
		.left {
			order: 3;
			position: static;
			height: 520px;
		}
	}
</style>
