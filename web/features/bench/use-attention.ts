import { useEffect, useRef } from 'react';
import { useAppSelector } from '../../app/store.ts';

/** A short sound and a vibration when something becomes ready; both can be switched off in Set-up. */
export function useReadySignal(ready: boolean): void {
  const on = useAppSelector((s) => s.settings.sound);
  const before = useRef(ready);
  useEffect(() => {
    if (ready && !before.current && on) {
      navigator.vibrate?.([120, 60, 120]);
      chime();
    }
    before.current = ready;
  }, [ready, on]);
}

function chime(): void {
  try {
    const audio = new AudioContext();
    const tone = audio.createOscillator();
    const loudness = audio.createGain();
    tone.frequency.setValueAtTime(660, audio.currentTime);
    tone.frequency.setValueAtTime(880, audio.currentTime + 0.12);
    loudness.gain.setValueAtTime(0.12, audio.currentTime);
    loudness.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 0.4);
    tone.connect(loudness).connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + 0.4);
    tone.onended = () => void audio.close();
  } catch {
    // No sound here: the change of shape and word says it all the same.
  }
}

/** Keeps the screen awake during a run, where the browser allows it (secure contexts only). */
export function useScreenAwake(on: boolean): void {
  useEffect(() => {
    if (!on || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    const take = () => {
      if (document.visibilityState === 'visible')
        void navigator.wakeLock.request('screen').then(
          (l) => (lock = l),
          () => undefined,
        );
    };
    take();
    document.addEventListener('visibilitychange', take);
    return () => {
      document.removeEventListener('visibilitychange', take);
      void lock?.release();
    };
  }, [on]);
}
