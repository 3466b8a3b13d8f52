import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { MoveSensor, SetUpLoop, ShelvedSensor } from '@frustum/contract';
import { useAddSpareMutation, useMoveSensorMutation } from '../../../app/api.ts';
import { momentOf } from './where-words.ts';

/** Chosen instead of a sensor from the shelf. */
export const NEW = 'new';

/** What is typed into the form. */
export interface Typed {
  readonly chosen: string;
  readonly name: string;
  readonly serial: string;
  readonly model: string;
  readonly displaced: string;
  readonly at: string;
  readonly why: string;
  readonly soaked: boolean;
}

/** Where a sensor is fitted, and what lies on the shelf for it. */
export interface FitProps {
  readonly loop: SetUpLoop;
  readonly spares: readonly ShelvedSensor[];
  /** of the site */
  readonly timeZone: string;
}

/** Puts the chosen sensor there; a new one is on the shelf first, and stays there if it cannot be fitted. */
export function useFit(props: FitProps) {
  const { loop, spares, timeZone } = props;
  const navigate = useNavigate();
  const [typed, setTyped] = useState<Typed>({
    chosen: spares[0]?.sensorId ?? NEW,
    name: '',
    serial: '',
    model: loop.sensor?.model ?? '',
    displaced: 'retired',
    at: '',
    why: '',
    soaked: false,
  });
  const [add, ofAdd] = useAddSpareMutation();
  const [move, ofMove] = useMoveSensorMutation();
  // The house is read anew as soon as the sensor is fitted: until the next page has come, this one is about the old one.
  const [asked, setAsked] = useState<FitProps | null>(null);
  const put = (part: Partial<Typed>) => setTyped({ ...typed, ...part });
  const fit = async () => {
    setAsked(props);
    if (!(await fitted())) setAsked(null);
  };
  const fitted = async (): Promise<boolean> => {
    let sensorId = typed.chosen;
    if (sensorId === NEW) {
      const { name, serial, model } = typed;
      const added = await add({
        name,
        serial,
        model,
        family: loop.family,
        boughtOn: null,
        storage: 'wet',
        soaking: false,
      });
      if (!added.data) return false;
      sensorId = added.data.sensorId;
      put({ chosen: sensorId });
    }
    const body: Partial<MoveSensor> = {
      version: spares.find((s) => s.sensorId === sensorId)?.version ?? 1,
      to: 'loop',
      loopId: loop.loopId,
      ...(loop.sensor ? { displaced: typed.displaced as 'wet', instead: loop.sensor.sensorId } : {}),
      soaked: typed.soaked,
      why: typed.why.trim(),
      ...momentOf(typed.at, timeZone),
    };
    const moved = await move({ sensorId, body });
    if (moved.data) void navigate(`/sensors/${sensorId}`);
    return Boolean(moved.data);
  };
  const problem = ofAdd.error ?? ofMove.error;
  return { typed, put, asked, fit: () => void fit(), error: problem, isLoading: ofAdd.isLoading || ofMove.isLoading };
}
