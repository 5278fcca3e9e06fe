"""The posterior over fault and severity, with the scatter between machines shared by all readings.

Two healthy machines of a model differ: each element's resistance by a log-normal of 12 %. That moves several readings
together, so their covariance is instrument² + J·Jᵀ (J: change per standard deviation of each element), not a diagonal.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from warmdraft.air import Floats
from warmdraft.diagnosis.evidence import Look, Numbers

#: Hypotheses that together hold less than this are left out where only averages are asked for.
NEGLIGIBLE = 1e-5


@dataclass(frozen=True, slots=True)
class Fit:
    """How readings fit each hypothesis, the scatter integrated.

    log_likelihood (H,); chi_square (H,); left_out_residual and left_out_variance (H, n): each reading against what the
    others lead one to expect; scatter_mean (H, 8) and scatter_covariance (H, 8, 8): what the readings say of this very
    machine, in standard deviations of each element.
    """

    log_likelihood: Floats
    chi_square: Floats
    left_out_residual: Floats
    left_out_variance: Floats
    scatter_mean: Floats
    scatter_covariance: Floats

    def kept(self, kept: NDArray[np.intp]) -> Fit:
        """The same for some of the hypotheses."""
        return Fit(**{name: getattr(self, name)[kept] for name in self.__slots__})

    def left_out_log_likelihood(self) -> Floats:
        """Log-density of each reading given the others and the hypothesis, (H, n)."""
        return np.asarray(
            -0.5 * (self.left_out_residual**2 / self.left_out_variance + np.log(2 * np.pi * self.left_out_variance))
        )


def _inverse_and_log_determinant(matrices: Floats) -> tuple[Floats, Floats]:
    """Of many small symmetric positive definite matrices, (H, n, n): Gauss–Jordan across all of them at once.

    No pivoting is needed for such matrices; n steps of rank one, each over all hypotheses, beat a call per matrix.
    """
    inverse = np.ascontiguousarray(np.moveaxis(matrices, 0, -1))  # (n, n, H): long stretches for every step
    log_determinant = np.zeros(matrices.shape[0])
    for k in range(inverse.shape[0]):
        pivot = inverse[k, k].copy()
        log_determinant += np.log(pivot)
        row = inverse[k] / pivot
        column = inverse[:, k].copy()
        column[k] = 0.0
        inverse -= column[:, None] * row[None]
        inverse[:, k] = -column / pivot
        inverse[k] = row
        inverse[k, k] = 1 / pivot
    return np.moveaxis(inverse, -1, 0), log_determinant


def fit(numbers: Numbers) -> Fit:
    """Gaussian fit of the readings to every hypothesis.

    Source: conditioning of a multivariate normal, in the space of the eight scatters (matrix inversion lemma), so
    that the cost does not grow with the square of the readings.
    """
    jacobian = numbers.sensitivity  # (H, n, 8)
    _, n, elements = jacobian.shape
    residual = numbers.value - numbers.expected  # (H, n)
    information = 1 / numbers.sd**2  # (H, n)
    weighted_jacobian = jacobian * information[:, :, None]
    scatter_covariance, log_determinant = _inverse_and_log_determinant(
        np.eye(elements) + np.swapaxes(jacobian, 1, 2) @ weighted_jacobian
    )
    pull = (weighted_jacobian * residual[:, :, None]).sum(axis=1)  # (H, 8)
    scatter_mean = (scatter_covariance @ pull[:, :, None])[:, :, 0]
    unexplained = residual - (jacobian @ scatter_mean[:, :, None])[:, :, 0]
    weighted = unexplained * information  # precision · residual
    chi_square = (residual * weighted).sum(axis=1)
    precision = information - information**2 * ((jacobian @ scatter_covariance) * jacobian).sum(axis=-1)
    log_variances = 2 * np.log(numbers.sd).sum(axis=1)
    return Fit(
        log_likelihood=-0.5 * (chi_square + log_determinant + log_variances + n * np.log(2 * np.pi)),
        chi_square=chi_square,
        left_out_residual=weighted / precision,
        left_out_variance=1 / precision,
        scatter_mean=scatter_mean,
        scatter_covariance=scatter_covariance,
    )


def log_sum(log_weight: Floats) -> float:
    """Log of a sum of exponentials, −inf for nothing."""
    if log_weight.size == 0:
        return -np.inf
    top = float(log_weight.max())
    return top + float(np.log(np.exp(log_weight - top).sum())) if np.isfinite(top) else top


def normalised(log_weight: Floats) -> Floats:
    """Weights that sum to 1; far readings would underflow to 0 everywhere without the shift."""
    weight = np.exp(log_weight - log_weight.max())
    return np.asarray(weight / weight.sum())


def log_joint(log_prior: Floats, readings: Fit, looks: list[Look]) -> Floats:
    """Log prior plus log-likelihood of all evidence, (H,); readings and looks independent given the hypothesis."""
    total = log_prior + readings.log_likelihood
    for look in looks:
        total = total + look.log_likelihood
    return total


def likely(weight: Floats) -> NDArray[np.intp]:
    """The hypotheses that together hold all but NEGLIGIBLE of the posterior, in their own order."""
    order = np.argsort(-weight, kind="stable")
    enough = int(np.searchsorted(np.cumsum(weight[order]), 1 - NEGLIGIBLE)) + 1
    return np.sort(order[:enough])


def sorted_quantiles(ordered: Floats, share: Floats, levels: Floats) -> Floats:
    """Quantiles of weighted points already in order, one set per column: (points, columns) -> (levels, columns).

    Linear between the middles of the points' shares; a column's shares need not sum to 1.
    """
    cumulative = np.cumsum(share, axis=0)
    middle = (cumulative - share / 2) / cumulative[-1]
    columns = [np.interp(levels, middle[:, c], ordered[:, c]) for c in range(ordered.shape[1])]
    return np.stack(columns, axis=-1)


#: Three-point Gauss–Hermite rule for a standard normal: exact up to fifth moments.
_POINTS = np.array([-np.sqrt(3.0), 0.0, np.sqrt(3.0)])
_SHARES = np.array([1 / 6, 2 / 3, 1 / 6])


def mixture_quantiles(mean: Floats, sd: Floats, weight: Floats, levels: Floats) -> Floats:
    """Quantiles of a mixture of normals per column: mean, sd (H, columns), weight (H,) -> (levels, columns)."""
    points = (mean[:, None, :] + _POINTS[:, None] * sd[:, None, :]).reshape(-1, mean.shape[1])
    shares = (weight[:, None] * _SHARES).reshape(-1)
    order = np.argsort(points, axis=0)
    return sorted_quantiles(np.take_along_axis(points, order, axis=0), shares[order], levels)
