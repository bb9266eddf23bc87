"""Charts: how many patches, of which inks, and none twice."""

from __future__ import annotations

import numpy as np
import pytest
from kept import as_kept

from plinto_core.measurement.charts import cmyk_chart, ink_chart, rgb_chart


@pytest.mark.parametrize("inks", range(1, 9))
def test_charts_of_inks(inks) -> None:
    chart = ink_chart(inks)
    assert chart[0].tolist() == [0] * inks
    assert len(np.unique(chart, axis=0)) == len(chart)
    assert 0 <= chart.min() <= chart.max() == 1
    total = chart.sum(axis=1)
    told = [
        len(chart), round(float(total.max()), 4), np.round(chart.mean(axis=0), 5).tolist(),
        [int((chart[:, i] > 0).sum()) for i in range(inks)], np.bincount((chart > 0).sum(axis=1), minlength=inks + 1).tolist(),
        np.unique(chart).tolist(), np.round(chart[:: max(1, len(chart) // 12)], 4).tolist(),
    ]  # fmt: skip
    as_kept(f"measurement/chart-{inks}", told, abs=1e-6)


def test_charts_of_cmyk_and_rgb() -> None:
    for name, chart in (("cmyk", cmyk_chart()), ("rgb", rgb_chart())):
        assert len(np.unique(chart, axis=0)) == len(chart)
        told = [
            len(chart),
            np.round(chart.mean(axis=0), 5).tolist(),
            np.unique(chart).tolist(),
            np.round(chart[::80], 4).tolist(),
        ]
        as_kept(f"measurement/chart-{name}", told, abs=1e-6)
    assert rgb_chart()[-1].tolist() == [1, 1, 1]
    assert cmyk_chart()[0].tolist() == [0, 0, 0, 0]
