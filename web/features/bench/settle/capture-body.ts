import type { Capture } from '@frustum/core';

/** A capture, without where in the run it belongs. */
export type CaptureBody = Omit<Capture, 'pointIndex' | 'purpose'>;
