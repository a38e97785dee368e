<!-- @component
	Amateur bands of a region with the segments of the modes: to look at, and to set to one's licence.
-->
<script lang="ts">
	import { answer, api, type Band, problemText, type Schemas } from '../lib/api/client';
	import { Latest } from '../lib/api/latest.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import Header from '../lib/shell/Header.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { edgeMegahertz } from '../lib/units/format';

	type Own = Schemas['OwnBand'];
	type Mode = 'telegraphy' | 'digital' | 'speech';
	const modes: Mode[] = ['telegraphy', 'digital', 'speech'];

	let settings = $state.raw<Schemas['SettingsOut'] | null>(null);
	let refused = $state<string | null>(null);
	let name = $state('');

	const tables = new Latest(() => answer(api.GET('/api/tables/bands')), { keeps: true });
	const table = $derived(tables.value);
	const problem = $derived(refused ?? tables.problem);
	void tryTo(async () => {
		[settings] = await Promise.all([answer(api.GET('/api/settings')), tables.ask(null)]);
	});

	type Changes = { region?: 1 | 2 | 3; bands?: Record<string, Own> };
	let last: Promise<unknown> = Promise.resolve();
	/** One after the other: each names the revision that the one before it made. */
	async function change(changes: (present: Schemas['SettingsOut']) => Changes): Promise<void> {
		const next = last.then(async () => {
			if (!settings) return;
			settings = await answer(
				api.PATCH('/api/settings', {
					body: { revision: settings.revision, ...changes(settings) }
				})
			);
		});
		last = next.catch(() => undefined);
		await next;
		refused = null;
		// What was typed is kept by now; the table may follow.
		tables.show(null);
	}

	const plain = (b: Band): Own => ({
		label: b.label,
		low_hz: b.low_hz,
		high_hz: b.high_hz,
		segments: b.segments
	});

	/** A change of a band as it is kept by then, not as it was when the table was drawn. */
	function edit(band: Band, changed: (own: Own) => Partial<Own>): Promise<void> {
		return change(({ bands }) => {
			const own = bands[band.key] ?? plain(band);
			return { bands: { ...bands, [band.key]: { ...own, ...changed(own) } } };
		});
	}

	function segment(band: Band, mode: Mode, edge: 'low_hz' | 'high_hz', hz: number): Promise<void> {
		return edit(band, (own) => {
			const present = own.segments?.[mode] ?? { low_hz: own.low_hz, high_hz: own.high_hz };
			return { segments: { ...own.segments, [mode]: { ...present, [edge]: hz } } };
		});
	}

	async function tryTo(act: () => Promise<unknown>): Promise<void> {
		try {
			await act();
		} catch (why) {
			refused = problemText(why);
		}
	}

	function without(bands: Record<string, Own>, key: string): Record<string, Own> {
		return Object.fromEntries(Object.entries(bands).filter(([k]) => k !== key));
	}

	function add(): Promise<void> {
		const label = name.trim();
		const key = label
			.toLowerCase()
			.replace(/[^a-z0-9]+/g, '-')
			.replace(/^-|-$/g, '');
		if (!key || table?.rows.some((b) => b.key === key)) {
			refused = `“${label}” ${key ? 'is there already' : 'is no name'}; write another one, such as “60 m channel”`;
			return Promise.resolve();
		}
		name = '';
		return tryTo(() =>
			change(({ bands }) => ({
				bands: { ...bands, [key]: { label, low_hz: 14e6, high_hz: 14.35e6, segments: {} } }
			}))
		);
	}
</script>

<svelte:head><title>Bands · Yielding Coil</title></svelte:head>

<Header />
<main class="page">
	<h1>Bands</h1>
	{#if problem}<Note kind="danger">{problem}.</Note>{/if}
	{#if table && settings}
		<div class="row">
			<label
				>ITU region
				<select
					value={settings.region}
					onchange={(event) => {
						const region = Number(event.currentTarget.value) as 1 | 2 | 3;
						void tryTo(() => change(() => ({ region })));
					}}
				>
					<option value={1}>1, Europe, Africa, northern Asia</option>
					<option value={2}>2, the Americas</option>
					<option value={3}>3, southern Asia, Oceania</option>
				</select></label
			>
		</div>
		<p class="soft">{table.source} Targets take their edges from here when you choose a band.</p>
		<div class="wide">
			<table class="sheet">
				<thead>
					<tr
						><th>Band, MHz</th><th>from</th><th>to</th>{#each modes as mode (mode)}<th>{mode}</th
							>{/each}<th><span class="unseen">Back to the table</span></th></tr
					>
				</thead>
				<tbody>
					{#each table.rows as band (band.key)}
						<tr>
							<th scope="row">{band.label}</th>
							{#each ['low_hz', 'high_hz'] as const as edge (edge)}
								<td
									><QuantityField
										label="{band.label}, {edge === 'low_hz' ? 'from' : 'to'}"
										quiet
										kind="frequency"
										width={8}
										shown={edgeMegahertz(band[edge])}
										onsettle={(hz) => edit(band, () => ({ [edge]: hz }))}
									/></td
								>
							{/each}
							{#each modes as mode (mode)}
								{@const s = band.segments?.[mode]}
								<td class="segment">
									{#each ['low_hz', 'high_hz'] as const as edge (edge)}
										<QuantityField
											label="{band.label} {mode}, {edge === 'low_hz' ? 'from' : 'to'}"
											quiet
											kind="frequency"
											width={7}
											shown={s ? edgeMegahertz(s[edge]) : '–'}
											onsettle={(hz) => segment(band, mode, edge, hz)}
										/>
									{/each}
								</td>
							{/each}
							<td>
								{#if band.changed}
									<button
										class="button"
										aria-label="{band.own ? 'Remove' : 'Put back'} {band.label}"
										onclick={() =>
											tryTo(() => change(({ bands }) => ({ bands: without(bands, band.key) })))}
										>{band.own ? 'remove' : 'put back'}</button
									>
								{/if}
							</td>
						</tr>
					{/each}
				</tbody>
			</table>
		</div>
		<form
			class="row"
			onsubmit={(event) => {
				event.preventDefault();
				void add();
			}}
		>
			<label
				>A band of your own <input
					bind:value={name}
					maxlength="40"
					placeholder="60 m channel"
				/></label
			>
			<button class="button">Add it</button>
		</form>
	{:else if !problem}
		<p class="soft">Looking…</p>
	{/if}
</main>

<style>
	.wide {
		position: relative;
		overflow-x: auto;
	}
	table {
		border-collapse: collapse;
		width: 100%;
	}
	th,
	td {
		text-align: left;
		padding: 4px 8px;
		font-size: var(--size-13);
	}
	.segment {
		white-space: nowrap;
	}
	tbody tr {
		border-top: 1px solid var(--line);
	}
	form input {
		border: 1px solid var(--control-edge);
		border-radius: 6px;
		background: var(--sheet);
		padding: 4px 8px;
	}
</style>
