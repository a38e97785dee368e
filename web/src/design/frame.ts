/** What a prediction is drawn for beside its content: power and a stretch of frequency. */
export interface Frame {
	power_w: number;
	low_hz: number;
	high_hz: number;
}
