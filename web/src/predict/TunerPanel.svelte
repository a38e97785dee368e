<!-- @component
	A tuner, where, and how it is set: what the radio sees, the line carries and goes up; its settings for one band.
-->
<script lang="ts">
	import { answer, api, type Content } from '../lib/api/client';
	import { latest } from '../lib/api/latest.svelte';
	import QuantityField from '../lib/controls/QuantityField.svelte';
	import { tunerOf, withTuner } from '../design/content';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { quantity, swr, watts } from '../lib/units/format';
	import { type Bands, dialsText } from './words';

	interface Props {
		content: Content;
		bands: Bands;
		band: number;
		powerW: number;
		onedit: (content: Content) => void;
	}

	let { content, bands, band, powerW, onedit }: Props = $props();

	const tuner = $derived(tunerOf(content));
	const label = $derived(content.targets[band]?.label ?? '');
	const places = { nowhere: 'none', radio: 'at the radio', antenna: 'at the antenna' } as const;

	const choices = latest(
		() => (tuner ? { content, target: band, power_w: powerW } : null),
		(body) => answer(api.POST('/api/tuners/choices', { body })),
		{ keeps: true }
	);
	const found = $derived(choices.value);
	let order = $state<'loss_w' | 'peak_voltage_v' | 'worst_swr'>('loss_w');
	const ranked = $derived(
		[...(found?.choices ?? [])].sort((a, b) => (a[order] ?? Infinity) - (b[order] ?? Infinity))
	);
	const merits: Record<string, string> = {
		'least loss': 'least loss',
		'least volts': 'fewest volts',
		'most capacitance': 'most capacitance',
		'best over the band': 'fairest over the band',
		nearest: 'the nearest it can'
	};

	type Stop =
		| 'input_low_f'
		| 'input_high_f'
		| 'output_low_f'
		| 'output_high_f'
		| 'coil_low_h'
		| 'coil_high_h';
	const stops: [Stop, string, 'capacitance' | 'inductance'][] = $derived([
		...(tuner?.network === 'ell'
			? []
			: ([
					['output_low_f', 'Antenna capacitor from', 'capacitance'],
					['output_high_f', 'to', 'capacitance']
				] as [Stop, string, 'capacitance'][])),
		['coil_low_h', 'Coil from', 'inductance'],
		['coil_high_h', 'to', 'inductance'],
		[
			'input_low_f',
			tuner?.network === 'ell' ? 'Capacitor from' : 'Radio capacitor from',
			'capacitance'
		],
		['input_high_f', 'to', 'capacitance']
	]);
</script>

<section class="sheet" aria-label="A tuner, where?">
	<h2>A tuner, where? <small>on {label}</small> <Help topic="tuner" name="a tuner" /></h2>
	<table class="places">
		<thead
			><tr
				><th><span class="unseen">where</span></th><th>radio sees</th><th>on the line</th><th
					>{bands.bands[band]?.radiated ? 'goes up' : 'into the wire'}</th
				></tr
			></thead
		>
		<tbody>
			{#each bands.tuners as place (place.at)}
				<tr class:here={place.here}>
					<th>{places[place.at]}</th>
					{#if place.up_w[band] === null}
						<td colspan="3">cannot match it</td>
					{:else}
						<td class="mono">{swr(place.radio_swr[band])}</td>
						<td class="mono">{swr(place.line_swr[band])}</td>
						<td class="mono">{watts(place.up_w[band])}</td>
					{/if}
				</tr>
			{/each}
		</tbody>
	</table>
	<p class="told">
		At the radio it keeps the radio content and lets its power in; the line stays as it is. At the
		antenna it takes the SWR off the line as well.
		{#if bands.tuner_assumed}Compared with a usual tuner of 200 W.{/if}
	</p>
	{#if tuner}
		{#if found && !found.reached}
			<Note kind="danger" title="This tuner cannot match {label}.">
				As near as it comes the radio sees {swr(found.choices[0]?.middle_swr)} : 1, with {dialsText(
					found.choices[0]!.setting
				)}.
			</Note>
		{:else if found}
			<h3 class="eyebrow">
				Its settings on {label},
				<select aria-label="Order of the settings" bind:value={order}>
					<option value="loss_w">least loss first</option>
					<option value="peak_voltage_v">fewest volts first</option>
					<option value="worst_swr">fairest over the band first</option>
				</select>
			</h3>
			<div class="scroll">
				<table>
					<thead
						><tr
							><th
								>{tuner.network === 'ell'
									? 'from the line to the radio'
									: 'C at the line · coil · C at the radio'}</th
							><th>loses</th><th>peak</th><th>middle</th><th>worst</th></tr
						></thead
					>
					<tbody>
						{#each ranked as choice, i (i)}
							<tr>
								<td
									><span class="dials">{dialsText(choice.setting)}</span>
									{#if choice.merits.length}<b>{choice.merits.map((m) => merits[m]).join(', ')}</b
										>{/if}</td
								>
								<td class="mono">{watts(choice.loss_w)}</td>
								<td class="mono">{quantity(choice.peak_voltage_v, 'V', 2)}</td>
								<td class="mono">{swr(choice.middle_swr)}</td>
								<td class="mono">{swr(choice.worst_swr)}</td>
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
			<p class="told">
				{#if found.lossy}{found.lossy} of these {found.choices.length} lose more than {watts(
						found.lossy_w
					)}.{/if}
				{#if found.capacitance_rule === true}The one with most capacitance loses least, as practice
					has it.{:else if found.capacitance_rule === false}Here the one with most capacitance does
					not lose least: the antenna's own reactance does part of the work.{/if}
			</p>
		{/if}
		{#if choices.problem}<Note kind="danger">{choices.problem}.</Note>{/if}
		<details>
			<summary>What it can be set to</summary>
			<div class="fields">
				<label
					>Network
					<select
						value={tuner.network ?? 'tee'}
						onchange={(e) =>
							onedit(withTuner(content, { network: e.currentTarget.value as 'tee' | 'ell' }))}
					>
						<option value="tee">C-L-C, coil across</option>
						<option value="ell">L, capacitor at either side</option>
					</select></label
				>
				{#each stops as [name, said, kind], i (name)}
					<QuantityField
						label={said === 'to' ? `${stops[i - 1]?.[1].replace(' from', '')} to` : said}
						{kind}
						width={8}
						shown={quantity(tuner[name], kind === 'capacitance' ? 'F' : 'H')}
						onsettle={(value) => onedit(withTuner(content, { [name]: value }))}
					/>
				{/each}
				<QuantityField
					label="Q of the coil"
					kind="quality"
					width={6}
					shown={String(tuner.coil_q)}
					onsettle={(coil_q) => onedit(withTuner(content, { coil_q }))}
				/>
				<QuantityField
					label="Q of the capacitors"
					kind="quality"
					width={6}
					shown={String(tuner.capacitor_q)}
					onsettle={(capacitor_q) => onedit(withTuner(content, { capacitor_q }))}
				/>
				<QuantityField
					label="Its capacitors stand"
					kind="voltage"
					width={8}
					shown={tuner.stands_v === null ? 'not known' : quantity(tuner.stands_v, 'V')}
					onsettle={(stands_v) => onedit(withTuner(content, { stands_v }))}
				/>
			</div>
			<p class="told">
				Stops and Q of a tuner for 200 W, from memory, until you set yours. Volts are peaks.
			</p>
		</details>
		<button class="button" onclick={() => onedit(withTuner(content, null))}
			>Take the tuner out</button
		>
	{:else}
		<button class="button" onclick={() => onedit(withTuner(content, {}))}
			>Put a tuner at the radio</button
		>
	{/if}
</section>

<style>
	small {
		font-weight: 400;
		color: var(--soft);
	}
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: var(--size-13);
	}
	th {
		font-weight: 400;
		text-align: left;
		color: var(--soft);
	}
	thead th:not(:first-child),
	td.mono {
		text-align: right;
	}
	td,
	th {
		padding: 3px 6px;
		vertical-align: baseline;
	}
	tbody th {
		color: var(--ink);
	}
	.here {
		background: var(--selected);
		font-weight: 700;
	}
	.here th {
		font-weight: 700;
	}
	td.mono,
	.dials {
		white-space: nowrap;
	}
	.scroll {
		overflow-x: auto;
	}
	td b {
		color: var(--verdigris);
		font-weight: 600;
	}
	h3 {
		margin-top: 8px;
	}
	.fields {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 12px;
		margin: 6px 0;
	}
	.fields label {
		display: grid;
		gap: 2px;
		font-size: var(--size-13);
		color: var(--soft);
	}
	details {
		margin: 6px 0;
	}
	summary {
		cursor: pointer;
		padding: 4px 0;
	}
</style>
