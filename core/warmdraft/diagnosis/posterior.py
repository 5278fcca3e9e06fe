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

Singles = NDArray[np.float32]

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


def fit(numbers: Numbers) -> Fit:
    """Gaussian fit of the readings to every hypothesis.

    The eight scatters, standard normal before anything is read, are conditioned on one reading after the other; each
    step is of rank one and runs over all hypotheses at once.
    Source: conditioning of a multivariate normal (the measurement update of a Kalman filter).
    """
    jacobian = np.ascontiguousarray(np.moveaxis(numbers.sensitivity, 0, -1))  # (n, 8, H): long stretches for each step
    n, elements, hypotheses = jacobian.shape
    residual, variance = (numbers.value - numbers.expected).T, (numbers.sd**2).T  # (n, H)
    mean = np.zeros((elements, hypotheses))
    covariance = np.repeat(np.eye(elements)[:, :, None], hypotheses, axis=2)  # (8, 8, H)
    chi_square, log_determinant = np.zeros(hypotheses), np.zeros(hypotheses)
    for i in range(n):
        moves = np.einsum("efh,fh->eh", covariance, jacobian[i])
        spread = variance[i] + (jacobian[i] * moves).sum(axis=0)
        innovation = residual[i] - (jacobian[i] * mean).sum(axis=0)
        gain = moves / spread
        mean += gain * innovation
        covariance -= gain[:, None] * moves[None]
        chi_square += innovation**2 / spread
        log_determinant += np.log(spread)
    unexplained = residual - np.einsum("neh,eh->nh", jacobian, mean)
    weighted = unexplained / variance  # precision · residual
    explained = np.einsum("neh,neh->nh", np.einsum("nfh,feh->neh", jacobian, covariance), jacobian)
    precision = 1 / variance - explained / variance**2
    return Fit(
        log_likelihood=-0.5 * (chi_square + log_determinant + n * np.log(2 * np.pi)),
        chi_square=chi_square,
        left_out_residual=(weighted / precision).T,
        left_out_variance=(1 / precision).T,
        scatter_mean=mean.T,
        scatter_covariance=np.moveaxis(covariance, -1, 0),
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


def log_joint(log_prior: Floats, looks: list[Look]) -> Floats:
    """Log prior plus log-likelihood of all that was seen, (H,); looks are independent given the hypothesis."""
    total = log_prior
    for look in looks:
        total = total + look.log_likelihood
    return total


def likely(weight: Floats) -> NDArray[np.intp]:
    """The hypotheses that together hold all but NEGLIGIBLE of the posterior, in their own order."""
    order = np.argsort(-weight, kind="stable")
    enough = int(np.searchsorted(np.cumsum(weight[order]), 1 - NEGLIGIBLE)) + 1
    return np.sort(order[:enough])


def thinned(weight: Floats, most: int) -> tuple[NDArray[np.intp], Floats]:
    """At most so many hypotheses that stand for all likely ones, in their own order, and the weight of each.

    Taken at even steps of the running sum, so that every stretch of hypotheses keeps its share to one step.
    Source: systematic resampling, as in particle filters (Kitagawa 1996, from memory).
    """
    kept = likely(weight)
    if len(kept) <= most:
        return kept, weight[kept]
    running = np.cumsum(weight[kept])
    picked = np.searchsorted(running, (np.arange(most) + 0.5) / most * running[-1])
    some, times = np.unique(picked, return_counts=True)
    return kept[some], times / most


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


def normal_cdf(x: Singles) -> Singles:
    """Standard normal distribution function, to 3e-4. Source: tanh approximation, Page 1977, from memory."""
    argument = x * x
    argument *= 0.044715
    argument += 1
    argument *= x
    argument *= np.float32(np.sqrt(2 / np.pi))
    np.tanh(argument, out=argument)
    return 0.5 * (1 + argument)
