<!-- @component
	The figure that decides, the networks compared, the parts to make, the next steps, and the caution.
-->
<script lang="ts">
	import type { Candidate, Content, Prediction, Yield } from '../lib/api/client';
	import Help from '../lib/help/Help.svelte';
	import Note from '../lib/shell/Note.svelte';
	import { figures, length, megahertz, percent, quantity, swr, watts } from '../lib/units/format';
	import { units } from '../lib/units/units.svelte';
	import Switched from './Switched.svelte';
	import Wiring from './Wiring.svelte';
	import YieldPictures from './YieldPictures.svelte';
	import {
		isWound,
		parts,
		sameShape,
		shapeName,
		shapeOf,
		shortenedOf,
		woundName,
		woundTitle
	} from '../design/content';
	import { partTitle, shorterText } from '../design/words';
	import {
		benchLoad,
		caution,
		coilText,
		finding,
		isMatchMade,
		nearFloor,
		pairText,
		sectionText,
		stubText,
		why
	} from './words';

	interface Props {
		content: Content;
		prediction: Prediction;
		/** None while it is first computed. */
		yielded: Yield | null;
		candidates: Candidate[] | null;
		powerW: number;
		ontake: (candidate: Candidate) => void;
		/** Keeps a network as a design of its own, for one band alone. */
		ondesign: (band: string, network: Candidate) => void;
	}

	let { content, prediction, yielded, candidates, powerW, ontake, ondesign }: Props = $props();

	/** Known from its model alone: then the figure counts what that leaves open. */
	const modelled = $derived(content.antenna.kind === 'wire');

	const bands = $derived(content.targets.map((t) => t.label.replace(' ', '\u00a0')).join(', '));
	const limits = $derived([...new Set(content.targets.map((t) => Number(t.swr_limit.toFixed(2))))]);
	const shape = $derived(shapeOf(content));
	const made = $derived(
		prediction.made
			.filter(isMatchMade)
			.sort((a, b) => Number(b.kind === 'coil') - Number(a.kind === 'coil'))
	);
	const wound = $derived(content.elements.filter(isWound));
	/** So few builds hold that it is not to be made as it stands. */
	const few = $derived(yielded?.few_hold ?? false);
	const coils = $derived(made.filter((m) => m.kind === 'coil'));
	const rf = $derived(prediction.findings.find((f) => f.code === 'rf_voltage'));
	const remarks = $derived(prediction.findings.map((f) => finding(f)).filter((t) => t !== null));
	/** A number stays beside its sign. */
	const kept = (text: string) => text.replaceAll(' %', '\u00a0%');
	const count = ['no', 'one', 'two', 'three', 'four', 'five', 'six'];
	/** What a part is called on its ruler and in the picture. */
	function titleOf(key: string, otherwise: string): string {
		const part = parts(content).find((p) => p.key === key);
		return part ? partTitle(part) : otherwise;
	}
	const floorText = $derived(nearFloor(prediction.targets));
</script>

<section class="sheet verdict" aria-label="Verdict" aria-live="polite">
	{#if yielded && yielded.guessed !== null && yielded.guessed !== undefined}
		<p class="top"><span class="figure">Cannot tell</span></p>
		<p>
			Only {count[yielded.guessed] ?? yielded.guessed} samples lie round the band: the curve between them
			is a guess, and so would be a share of builds. Sweep it closer.
		</p>
	{:else if yielded}
		{@const figure = modelled ? yielded.reading : yielded.parts}
		<p class="top" class:many={content.targets.length > 1}>
			<span class="figure">{percent(figure.share)}</span>
			<span class="mono error">±{(100 * figure.standard_error).toFixed(1)}</span>
			<span class="of"
				>of builds hold {limits.map((l) => `${l}\u00a0:\u00a01`).join(' and ')} on all of {bands}</span
			>
		</p>
		<p>
			{kept(
				why(
					yielded,
					content.reading_spread ?? 0.02,
					prediction.targets,
					wound.length > 0,
					modelled
				).join(' ')
			)}
			<Help topic="yield" name="the yield" />
		</p>
		<YieldPictures {yielded} {modelled} limits={content.targets.map((t) => t.swr_limit)} />
		{#if floorText}<p>{floorText} <Help topic="floor" name="the floor" /></p>{/if}
		{#if yielded.reading.impossible}
			<p class="soft">
				{yielded.reading.impossible} of the tries read more than was sent; they are counted as failures.
			</p>
		{/if}
	{:else}
		<p>Building a few hundred of them…</p>
	{/if}
</section>

{#if wound.length}
	<section class="sheet">
		<h3 class="eyebrow">Wound</h3>
		{#each wound as w (w.key)}
			<p>
				<strong>{w.kind === 'transformer' ? woundTitle(w) : 'Coil on a ring'}</strong>,
				{woundName(w)}
			</p>
		{/each}
		<p class="told"><a href="wind">To the winding desk</a></p>
	</section>
{/if}
{#if !candidates?.length && wound.length}
	<!-- An unun is not compared with L networks. -->
{:else}
	<section class="sheet">
		{#if candidates}
			<h3 class="eyebrow">
				{(count[candidates.length] ?? String(candidates.length)).replace(/^./, (c) =>
					c.toUpperCase()
				)}
				ways to match this wire <Help topic="candidates" name="the ways to match" />
			</h3>
			<table>
				<thead>
					<tr
						><th><span class="unseen">Network</span></th><th>worst</th><th>yield</th><th>heat</th
						></tr
					>
				</thead>
				<tbody>
					{#each candidates as c (shapeName(c))}
						<tr class:here={sameShape(c, shape)}>
							<td>
								{#if c.content}
									<button class="name" aria-pressed={sameShape(c, shape)} onclick={() => ontake(c)}
										>{shapeName(c)}</button
									>
								{:else}
									<span class="name soft" title={c.refused ?? ''}>{shapeName(c)}</span>
								{/if}
							</td>
							{#if c.content}
								<td class="mono">{swr(c.worst_swr)}</td>
								<td class="mono"
									>{c.share === null || c.share === undefined ? '–' : percent(c.share)}</td
								>
								<td class="mono">{watts(c.heat_w)}</td>
							{:else}
								<td colspan="3" class="soft">cannot be made so</td>
							{/if}
						</tr>
					{/each}
				</tbody>
			</table>
		{:else}
			<h3 class="eyebrow">Comparing the networks…</h3>
		{/if}
	</section>
{/if}

{#if few && content.targets.length > 1 && !wound.length}
	<Switched {content} {powerW} {ondesign} />
{/if}

{#if made.length}
	<section class="sheet">
		<h3 class="eyebrow">
			{#if few}What it would be made of{:else if made.length === 1}Make this one{:else}Make these {count[
					made.length
				] ?? made.length}{/if}
			<Help topic="parts" name="making the parts" />
		</h3>
		<Wiring {content} />
		{#each made as part (part.key)}
			<p class="make">
				{#if part.kind === 'coil'}
					<strong>{titleOf(part.key, 'Coil')}</strong>, {coilText(part, units.length)} Cut
					<b class="mono">{length(part.cut_m, units.length)}</b>
					<span class="soft">(a turn to spare, {length(part.tail_m, units.length)} tails)</span>; Q
					about {part.q.toFixed(0)}, own resonance near {figures(
						part.self_resonance_hz / 1e6,
						2
					)}&nbsp;MHz,
					{part.peak_current_a?.toFixed(1)} A peak.
				{:else if part.kind === 'section'}
					<strong>{titleOf(part.key, 'Section')}</strong>, {sectionText(part, units.length)}
				{:else if part.kind === 'stub'}
					<strong>{titleOf(part.key, 'Stub')}</strong>, {stubText(part, units.length)} Cut
					<b class="mono">{length(part.cut_m, units.length)}</b> and trim{part.end === 'shorted'
						? ', making the short anew each time'
						: ''}.
					<span class="danger">{quantity(part.peak_voltage_v, 'V', 2)} peak.</span>
				{:else if part.coax_m}
					<strong>{titleOf(part.key, 'Capacitor')}</strong>, {length(part.coax_m, units.length)} of {part.cable_name},
					open end: cut
					<b class="mono">{length(part.cut_m ?? 0, units.length)}</b> and trim.
					<span class="danger">{quantity(part.peak_voltage_v, 'V', 2)} peak.</span>
				{:else}
					<strong>{titleOf(part.key, 'Capacitor')}</strong>, {quantity(part.capacitance_f, 'F')},
					{pairText(content, part.key) ?? 'mica or NP0'}, for
					<span class="danger">{quantity(part.peak_voltage_v, 'V', 2)} peak</span> and
					{part.peak_current_a?.toFixed(1)} A peak.
				{/if}
			</p>
		{/each}
		{#each remarks as remark, nth (nth)}<p class="make soft">{remark}</p>{/each}
	</section>
{/if}

<section class="sheet">
	<h3 class="eyebrow">Next</h3>
	{#if few}
		<p>
			Do not make it as it stands: {content.targets.length > 1
				? 'take one network for each band'
				: 'take another network, a part of the band or a wider limit'}.
		</p>
	{/if}
	<ol class:unseen={few}>
		{#if shortenedOf(content) < 1}
			<li>
				Cut the wire <b>{shorterText(shortenedOf(content))}</b> than it was swept, a little at a time,
				and sweep it again: this match rests on scaling until then.
			</li>
		{/if}
		{#each few ? [] : coils as coil (coil.key)}
			<li>
				Wind one turn more than planned; sweep the coil alone, and spread or squeeze it to
				<b>{quantity(coil.inductance_h, 'H')}</b> at {megahertz(coil.reads_at_hz)} MHz.
			</li>
		{/each}
		{#if prediction.bench && !few}<li>{benchLoad(prediction.bench)}</li>{/if}
	</ol>
	{#if rf}
		{@const burn = caution(rf)}
		<Note kind="danger" title={burn.title}>{burn.text}</Note>
	{/if}
</section>
<p class="told"><a href="predict">Where the watts go, band by band</a></p>

<style>
	.top {
		display: grid;
		grid-template-columns: auto auto 1fr;
		gap: 0 8px;
		align-items: center;
	}
	.error {
		color: var(--soft);
		font-size: var(--size-13);
	}
	.of {
		display: inline;
		line-height: 1.25;
	}
	.top.many {
		grid-template-columns: auto 1fr;
	}
	.many .of {
		grid-column: 1 / -1;
	}
	.top ~ p {
		margin-top: 6px;
		font-size: var(--size-13);
	}
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: var(--size-13);
	}
	th {
		font-size: var(--size-12);
		font-weight: 400;
		color: var(--soft);
		text-align: right;
		padding: 0 4px;
	}
	td {
		padding: 3px 4px;
		text-align: right;
		white-space: nowrap;
	}
	td:first-child {
		text-align: left;
	}
	.here {
		background: var(--selected);
		box-shadow: inset 4px 0 0 var(--copper);
	}
	.here .name {
		font-weight: 700;
	}
	.name {
		border: 0;
		background: none;
		padding: 0 0 0 8px;
		text-align: left;
		cursor: pointer;
		white-space: normal;
	}
	.soft {
		color: var(--soft);
	}
	.make {
		margin-top: 4px;
		font-size: var(--size-13);
	}
	.danger {
		color: var(--enamel);
	}
	ol {
		padding-left: 18px;
		margin: 4px 0 8px;
		font-size: var(--size-13);
	}
	@media (max-width: 620px), (pointer: coarse) {
		.name {
			min-height: 44px;
		}
	}
</style>
