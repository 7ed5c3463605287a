<!-- Stands where a test has no use for what is shown there. -->
<script lang="ts">
</script>
