<!-- @component
	R and X typed at a handful of frequencies: a sweep in its own right.
-->
<script lang="ts">
	import { answer, api, problemText, type Sweep } from '../lib/api/client';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Dialog from '../lib/shell/Dialog.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { figures, megahertz } from '../lib/units/format';

	interface Props {
		/** The build that it goes to; none makes a new one. */
		buildId?: string;
		onsweep: (sweep: Sweep) => void | Promise<void>;
		onclose: () => void;
	}

	let { buildId, onsweep, onclose }: Props = $props();

	interface Row {
		key: number;
		hz: number | null;
		r: number | null;
		x: number | null;
	}
	const empty = (key: number): Row => ({ key, hz: null, r: null, x: null });

	let rows = $state<Row[]>([empty(0), empty(1), empty(2)]);
	let name = $state('typed points');
	let problem = $state<string | null>(null);

	const full = $derived(rows.filter((row) => row.hz !== null && row.r !== null && row.x !== null));
	const shown = (v: number | null) => (v === null ? '' : `${figures(v)} Ω`);

	function more(): void {
		rows.push(empty(Math.max(...rows.map((r) => r.key)) + 1));
	}

	/** What a row lacks that is begun; nothing of an empty or a whole one. */
	function lacking(row: Row): string | null {
		const parts: [string, number | null][] = [
			['frequency', row.hz],
			['R', row.r],
			['X', row.x]
		];
		const missing = parts.filter(([, v]) => v === null).map(([name]) => name);
		return missing.length % parts.length === 0 ? null : missing.join(' and ');
	}

	async function keep(): Promise<void> {
		const begun = rows.findIndex((row) => lacking(row));
		problem =
			begun >= 0
				? `Row ${begun + 1} lacks ${lacking(rows[begun] as Row)}`
				: full.length < 2
					? `${full.length === 0 ? 'No point is' : 'One point is'} typed: two at least make a sweep`
					: null;
		if (problem) return;
		try {
			const points = full.map((row) => ({
				frequency_hz: row.hz ?? 0,
				resistance_ohm: row.r ?? 0,
				reactance_ohm: row.x ?? 0
			}));
			const body = { name: name.trim() || 'typed points', points, build_id: buildId };
			await onsweep(await answer(api.POST('/api/sweeps/points', { body })));
		} catch (why) {
			problem = problemText(why);
		}
	}
</script>

<Dialog title="R and X as read at a few frequencies" {onclose}>
	<p class="soft">
		Two points at least; more near your bands. What lies between them will be drawn as a guess.
	</p>
	<label class="name">Name <input bind:value={name} maxlength="120" /></label>
	<table>
		<thead><tr><th>Frequency</th><th>R</th><th>X, minus when capacitive</th></tr></thead>
		<tbody>
			{#each rows as row, i (row.key)}
				<tr>
					<td
						><QuantityField
							label="Frequency {i + 1}"
							quiet
							kind="frequency"
							width={11}
							shown={row.hz === null ? '' : `${megahertz(row.hz)} MHz`}
							onsettle={(v) => {
								row.hz = v;
							}}
						/></td
					>
					<td
						><QuantityField
							label="R {i + 1}"
							quiet
							kind="resistance"
							width={9}
							shown={shown(row.r)}
							onsettle={(v) => {
								row.r = v;
							}}
						/></td
					>
					<td
						><QuantityField
							label="X {i + 1}"
							quiet
							kind="reactance"
							width={9}
							shown={shown(row.x)}
							onsettle={(v) => {
								row.x = v;
								if (i === rows.length - 1 && rows.length < 64) more();
							}}
						/></td
					>
				</tr>
			{/each}
		</tbody>
	</table>
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	<div class="row acts">
		<!-- Never out of use: the focus comes to it from the last field, before that has settled. -->
		<button class="button main" onclick={keep}
			>Keep {full.length < 2 ? 'the' : full.length} points</button
		>
		<button class="button" onclick={more}>Another row</button>
	</div>
</Dialog>

<style>
	.name {
		display: block;
		margin: 8px 0;
	}
	.name input {
		border: 1px solid var(--control-edge);
		border-radius: 6px;
		background: var(--sheet);
		padding: 4px 8px;
	}
	.acts {
		margin-top: 8px;
	}
	th {
		text-align: left;
		font-size: var(--size-12);
		font-weight: 400;
		color: var(--soft);
	}
	td {
		padding: 3px 8px 3px 0;
		vertical-align: top;
	}
</style>
