/** How a developed picture is packed: by an encoder of pictures of eight or sixteen bits a channel, or as linear light. */
export type StillPlan =
  | {
      by: 'picture';
      as: 'png' | 'jpeg' | 'tiff' | 'webp' | 'avif';
      bits: 8 | 16;
      /** What the encoder is told besides. */
      options: Readonly<Record<string, string | number | boolean>>;
    }
  | {
      by: 'exr';
      /** Of light; what counts or measures stays whole. */
      samples: 'half' | 'float';
      /** One file a layer, packed together, instead of one with all. */
      apart: boolean;
    };

/** All that there is to know of a form in which single frames leave. */
export interface StillFormat {
  /** In the list. */
  title: string;
  /** What it is for. */
  says: string;
  extension: string;
  mediaType: string;
  /** What is behind the product can stay open. */
  alpha: boolean;
  plan: StillPlan;
}
