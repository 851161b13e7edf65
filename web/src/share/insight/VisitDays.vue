<script setup lang="ts">
import ApexCharts from 'apexcharts';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoomLight } from '../../device/room-light';
import { everyDay, type CountedDay } from './insight';

/** How many visits there were from day to day. */
const props = defineProps<{ days: readonly CountedDay[] }>();

const place = ref<HTMLElement>();
const room = useRoomLight();
let chart: ApexCharts | null = null;

const options = computed((): ApexCharts.ApexOptions => {
  const days = everyDay(props.days);
  const color = room.color.value;
  const labels = { style: { colors: color('ink-soft'), fontSize: '13px' } };
  return {
    chart: {
      type: 'bar',
      height: 150,
      fontFamily: 'inherit',
      toolbar: { show: false },
      zoom: { enabled: false },
      animations: { enabled: false },
    },
    series: [{ name: 'Visits', data: days.map(({ day, visits }) => ({ x: Date.parse(day), y: visits })) }],
    colors: [color('tail')],
    dataLabels: { enabled: false },
    plotOptions: { bar: { columnWidth: days.length > 3 ? '60%' : '12%', borderRadius: 3 } },
    grid: { borderColor: color('line') },
    xaxis: { type: 'datetime', labels: { ...labels, datetimeUTC: true }, axisBorder: { color: color('line') } },
    yaxis: {
      min: 0,
      forceNiceScale: true,
      labels: { ...labels, formatter: (count: number) => String(Math.round(count)) },
    },
    tooltip: { theme: room.isDark.value ? 'dark' : 'light', x: { format: 'd MMM yyyy' } },
  };
});

onMounted(() => {
  chart = new ApexCharts(place.value, options.value);
  void chart.render();
});
watch(options, (now) => void chart?.updateOptions(now));
onBeforeUnmount(() => chart?.destroy());
</script>

<template>
  <div ref="place" role="img" aria-label="Visits from day to day"></div>
</template>
