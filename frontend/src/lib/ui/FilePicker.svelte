<!-- The browser's file dialog, opened by a button of ours; the same file can be picked again. -->
<script lang="ts">
  interface Props {
    accept: string;
    label: string;
    testid: string;
    onpick: (file: File) => void;
  }
  let { accept, label, testid, onpick }: Props = $props();
  let input = $state<HTMLInputElement>();

  export function pick(): void {
    input?.click();
  }
</script>

<input
  bind:this={input}
  type="file"
  {accept}
  class="hidden"
  data-testid={testid}
  aria-label={label}
  onchange={(e) => {
    const file = e.currentTarget.files?.[0];
    if (file) onpick(file);
    e.currentTarget.value = '';
  }}
/>
