"""Diffuse exchange between faces, in the sun's band or the long-wave one, with sheets that let some through.

Radiation leaving a face hops: it arrives at face k with the view factor, is absorbed there, thrown back from k, or
passed on to leave k's partner face on the other side of the same sheet. Where it ends is an absorbing Markov
chain, solved once per build:

    M = F diag(ρ) + F diag(τ) P        B = (I − M)⁻¹ F diag(α)

``B[i, j]`` is the share of what leaves face i that is absorbed by face j, all bounces counted.

References:
    Gebhart 1961 (absorption factors), written for faces in pairs so that sheets may transmit.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from drylamp.core.arrays import Array


@dataclass(frozen=True)
class Faces:
    """Faces of one or more rooms that see each other.

    Attributes:
        names: one per face
        area_m2: shape (n,)
        view: view factors inside each room, rows summing to 1, shape (n, n)
        absorptance, transmittance: shape (n,); the rest is thrown back diffusely
        partner: index of the face on the other side of the sheet, or the face itself, shape (n,)
    """

    names: list[str]
    area_m2: Array
    view: Array
    absorptance: Array
    transmittance: Array
    partner: np.ndarray

    @property
    def reflectance(self) -> Array:
        """What is neither absorbed nor passed on, shape (n,)."""
        return 1.0 - self.absorptance - self.transmittance


def absorbed_shares(faces: Faces) -> Array:
    """B: share of what leaves face i that ends absorbed in face j, shape (n, n)."""
    count = len(faces.area_m2)
    swap = np.zeros((count, count))
    swap[np.arange(count), faces.partner] = 1.0
    hop = faces.view * faces.reflectance + (faces.view * faces.transmittance) @ swap
    return np.asarray(np.linalg.solve(np.eye(count) - hop, faces.view * faces.absorptance))


def absorbed_of_arriving(faces: Faces, shares: Array) -> Array:
    """Share of light *arriving* at face i that ends absorbed in face j, shape (n, n)."""
    return np.asarray(
        np.diag(faces.absorptance)
        + faces.reflectance[:, None] * shares
        + faces.transmittance[:, None] * shares[faces.partner]
    )


def exchange_areas(faces: Faces, shares: Array, node_of_face: np.ndarray, nodes: int) -> Array:
    """Long-wave exchange area between nodes, m²: net power i → j is σ X (Ti⁴ − Tj⁴), shape (nodes, nodes).

    Grey faces, so a face gives off with its absorptance. Symmetric when the view factors obey reciprocity.
    """
    face_to_face = (faces.area_m2 * faces.absorptance)[:, None] * shares
    out = np.zeros((nodes, nodes))
    np.add.at(out, (node_of_face[:, None], node_of_face[None, :]), face_to_face)
    out = (out + out.T) / 2.0
    np.fill_diagonal(out, 0.0)
    return out
