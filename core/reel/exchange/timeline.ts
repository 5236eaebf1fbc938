/** What of OpenTimelineIO (Academy Software Foundation, OTIO 0.15 file format) is written and read here. */
export interface RationalTime {
  OTIO_SCHEMA: 'RationalTime.1';
  rate: number;
  value: number;
}
export interface TimeRange {
  OTIO_SCHEMA: 'TimeRange.1';
  start_time: RationalTime;
  duration: RationalTime;
}

export const time = (value: number, rate: number): RationalTime => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value });
export const range = (start: number, duration: number, rate: number): TimeRange => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start, rate),
  duration: time(duration, rate),
});

/** Where the reel's own data stand among the metadata. */
export const OWN = 'zippy_reel';
