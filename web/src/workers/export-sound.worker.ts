import { samplesToSeconds } from '@kite-trail/core/trail/clock';
import { programmeLength, type Programme } from '@kite-trail/core/trail/programme';
import { AdtsOutputFormat, AudioSampleSource, NullTarget, Output } from 'mediabunny';
import { Allowance } from './allowance';
import { AAC_CONFIG, feedProgramme, prepareAac } from './programme-sound';
import type { SoundUrls } from './take-sound-reader';

export interface ExportSoundTask {
  programme: Programme;
  urls: SoundUrls;
  /** Leads to the worker that makes the pictures and the file. */
  port: MessagePort;
}

/** To the file's worker. Encoded packets come with what a decoder needs to know, at first. */
export type EncodedSound =
  | { data: Uint8Array; timestamp: number; duration: number; meta: EncodedAudioChunkMetadata | undefined }
  | 'end'
  | { failed: string };

onmessage = async ({ data: { programme, urls, port } }: MessageEvent<ExportSoundTask>) => {
  const allowance = new Allowance();
  port.onmessage = ({ data: pictureSeconds }: MessageEvent<number>) => allowance.moveTo(pictureSeconds);
  const post = (message: EncodedSound) => port.postMessage(message);
  try {
    await prepareAac();
    const source = new AudioSampleSource({
      ...AAC_CONFIG,
      onEncodedPacket: ({ data, timestamp, duration }, meta) => post({ data, timestamp, duration, meta }),
    });
    const output = new Output({ format: new AdtsOutputFormat(), target: new NullTarget() });
    output.addAudioTrack(source);
    await output.start();
    const lengthSeconds = samplesToSeconds(programmeLength(programme));
    await feedProgramme(programme, urls, source, (done) => allowance.reach(done * lengthSeconds));
    await output.finalize();
    post('end');
  } catch (error) {
    post({ failed: error instanceof Error ? error.message : String(error) });
  }
};
