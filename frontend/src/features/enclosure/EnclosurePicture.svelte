<!-- The box seen into from above at a slant; faces come from the core, back to front. -->
<script lang="ts">
  import type { Schemas } from '$lib/api/client';

  let { picture, words }: { picture: Schemas['EnclosurePicture']; words: string } = $props();
  const corners = (points: number[]) =>
    Array.from({ length: points.length / 2 }, (_, i) => `${points[2 * i]},${points[2 * i + 1]}`).join(' ');
  const tone = (light: number) =>
    `color-mix(in oklab, var(--color-sand) ${Math.round(light * 100)}%, var(--color-ink2))`;
</script>

<svg
  viewBox={`-4 -4 ${picture.width + 8} ${picture.height + 8}`}
  class="block h-full w-full"
  role="img"
  aria-label={words}
  preserveAspectRatio="xMidYMid meet"
>
  {#each picture.faces as face, i (i)}
    <!-- A hairline of the same tone closes the seam between neighbours. -->
    <polygon
      points={corners(face.points)}
      fill={tone(face.light)}
      stroke={tone(face.light)}
      stroke-width="0.6"
    />
  {/each}
</svg>
