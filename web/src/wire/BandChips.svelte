<!-- @component
	Bands to choose from, pressed on and off.
-->
<script lang="ts" module>
	import { answer, api, type Band, problemText, type Target } from '../lib/api/client';

	/** Bands as targets with a usual limit, in the order of the table: all of each, or the segment of a mode. */
	export function targetsOf(bands: Band[], keys: string[], segment = '', swrLimit = 2): Target[] {
		return bands
			.filter((b) => keys.includes(b.key))
			.map((band) => {
				const own = band.segments?.[segment];
				const label = own ? `${band.label} ${segment}` : band.label;
				return {
					label,
					...(own ?? { low_hz: band.low_hz, high_hz: band.high_hz }),
					swr_limit: swrLimit
				};
			});
	}
</script>

<script lang="ts">
	import Note from '../lib/shell/Note.svelte';

	interface Props {
		chosen: string[];
		onchange: (keys: string[], targets: Target[]) => void;
		legend?: string;
		/** Whether one may ask for a segment of each band alone. */
		segments?: boolean;
	}

	let { chosen, onchange, legend = 'Bands', segments = false }: Props = $props();
	let segment = $state('');

	let bands = $state.raw<Band[]>([]);
	let problem = $state<string | null>(null);
	answer(api.GET('/api/tables/bands'))
		.then((table) => {
			bands = table.rows;
			onchange(chosen, targetsOf(table.rows, chosen, segment));
		})
		.catch((why: unknown) => (problem = problemText(why)));

	function toggle(key: string): void {
		const now = chosen.includes(key) ? chosen.filter((k) => k !== key) : [...chosen, key];
		onchange(now, targetsOf(bands, now, segment));
	}
</script>

<fieldset>
	<legend class="eyebrow">{legend}</legend>
	{#if problem}<Note kind="danger">{problem}</Note>{/if}
	<div class="row">
		{#each bands as band (band.key)}
			<button
				type="button"
				class="button"
				class:main={chosen.includes(band.key)}
				aria-pressed={chosen.includes(band.key)}
				onclick={() => toggle(band.key)}>{band.label}</button
			>
		{/each}
	</div>
	{#if segments}
		<label class="told check"
			>of each
			<select
				value={segment}
				onchange={(event) => {
					segment = event.currentTarget.value;
					onchange(chosen, targetsOf(bands, chosen, segment));
				}}
			>
				<option value="">all of it</option>
				<option value="telegraphy">telegraphy</option>
				<option value="digital">digital modes</option>
				<option value="speech">speech</option>
			</select></label
		>
	{/if}
</fieldset>

<style>
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
		display: grid;
		gap: 6px;
		min-width: 0;
	}
	.row {
		gap: 6px;
	}
</style>
