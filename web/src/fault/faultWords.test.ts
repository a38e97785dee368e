import { describe, expect, it } from 'vitest';

import {
	actTitle,
	elementName,
	type FaultTest,
	leftText,
	lookText,
	oddsText,
	place,
	testText
} from './faultWords';

describe('what things are called', () => {
	it.each([
		['feed', 'joint at the feed'],
		['leg2', 'leg 2'],
		['wire1', 'wire'],
		['trap2-leg1', 'trap 2 of leg 1'],
		['coil1-wire1', 'coil 1 of wire'],
		['unun', 'unun']
	])('%s', (key, name) => expect(elementName(key)).toBe(name));

	it('says a place no finer than it is known', () => {
		expect(place(20.634, 'm')).toBe('20.6 m');
		expect(place(20.634, 'ft')).toBe('68 ft');
		const left = { key: 'line', code: 'shorted', at_m: 20.634, amount: null } as const;
		expect(leftText(left, 'm')).toBe('coax: shorted near 20.6 m');
	});

	it('says ohms, a factor and a share with what they are of', () => {
		const of = (key: string, code: 'resistance' | 'detuned' | 'broken', amount: number) =>
			leftText({ key, code, at_m: null, amount }, 'm');
		expect(of('feed', 'resistance', 14.8)).toBe('joint at the feed: a bad joint, some 15 Ω');
		expect(of('trap1-leg1', 'detuned', 0.9)).toContain('too low by 10');
		expect(of('leg1', 'broken', 0.4)).toContain('40 % of the way out');
	});

	it('never says more than it knows', () => {
		expect(oddsText(0.9999)).toBe('over 99 %');
		expect(oddsText(0.0001)).toBe('under 1 %');
	});
});

describe('tests and their answers', () => {
	const test = (code: string, reading: unknown, more = {}) =>
		testText({ code, act: code, of: '', skipped: false, reading, ...more } as FaultTest);

	it('tells a short, no path, a look and a dial', () => {
		expect(test('ohm_shack', { kind: 'ohm', ohm: null })).toContain('no path');
		expect(test('ohm_shack', { kind: 'ohm', ohm: 12 })).toContain('12 Ω');
		expect(test('look_up', { kind: 'look', answer: 'yes' })).toContain('I see it');
		const points = [{ frequency_hz: 7.1e6, swr: 9 }];
		expect(test('at_feed', { kind: 'dial', points })).toContain('SWR 9.00 at 7.100 MHz');
		expect(test('at_feed', null, { skipped: true })).toContain('cannot be done');
	});

	it('names the twins', () => {
		expect(actTitle('twins', 'trap2-leg1')).toBe('Twin against twin: trap 2 of leg 1');
		expect(lookText('twins', 'second', 'trap2-leg1', 'trap2-leg2')).toBe('trap 2 of leg 2 is off');
	});
});
