<!-- @component
	What the same wire on the same feed does on the other bands of the build.
-->
<script lang="ts">
	import type { Schemas, Target } from '../lib/api/client';
	import { megahertz, swr, watts } from '../lib/units/format';

	interface Props {
		study: Schemas['StudyOut'];
		/** The band that it is looked at on, and all of them. */
		target: Target;
		targets: Target[];
	}

	let { study, target, targets }: Props = $props();

	const rows = $derived([
		{
			label: target.label,
			worst_swr: study.worst_swr,
			dip_hz: study.sketch.dip_hz,
			radiated_w: study.radiated.watts
		},
		...study.others
	]);
	const over = (row: (typeof rows)[number]) =>
		(row.worst_swr ?? Infinity) >
		(targets.find((t) => t.label === row.label)?.swr_limit ?? target.swr_limit);
</script>

<section class="sheet">
	<h2>On the other bands</h2>
	<table class="told">
		<thead><tr><th></th><th>worst SWR</th><th>dips at</th><th>radiated</th></tr></thead>
		<tbody>
			{#each rows as row, nth (nth)}
				<tr>
					<td><strong>{row.label}</strong></td>
					<td class="mono" class:bad={over(row)}>{swr(row.worst_swr)}</td>
					<td class="mono">{row.dip_hz ? megahertz(row.dip_hz) : '–'}</td>
					<td class="mono">{watts(row.radiated_w)}</td>
				</tr>
			{/each}
		</tbody>
	</table>
	<p class="soft told">The same wire on the same feed, MHz. A harmonic comes out shifted.</p>
</section>

<style>
	.bad {
		color: var(--enamel);
	}
	table {
		border-collapse: collapse;
		width: 100%;
	}
	th {
		font-weight: 400;
		color: var(--soft);
		font-size: var(--size-12);
		text-align: right;
	}
	td {
		padding: 2px 0;
		text-align: right;
		white-space: nowrap;
	}
	td:first-child {
		text-align: left;
	}
</style>
