"""Drawn portraits: a few shapes chosen by the seed. Nobody real."""

import numpy as np

SKIN = ("#f2d3b8", "#e6b98f", "#c98f62", "#9c6540", "#6f452b", "#f5dcc9")
HAIR = ("#2b2320", "#5a3b26", "#8c5a2b", "#b98b4e", "#8f8f8f", "#d9d2c5", "#6b2f1f")
COLLAR = ("#b4572a", "#3d4a54", "#6b7a4f", "#7a4a5f", "#4f6478")
GROUND = ("#e6dfd0", "#d5dbd6", "#dcd3dc", "#cfd8df", "#e4d6c8")


def portrait(random: np.random.Generator) -> str:
    """An SVG of 64 by 64."""

    def pick(choices: tuple[str, ...]) -> str:
        return choices[int(random.integers(len(choices)))]

    skin, hair = pick(SKIN), pick(HAIR)
    width = round(float(random.uniform(11.5, 14)), 1)
    parts = [
        f'<rect width="64" height="64" fill="{pick(GROUND)}"/>',
        f'<path d="M8 64c2-13 12-17 24-17s22 4 24 17z" fill="{pick(COLLAR)}"/>',
        f'<path d="M26 42h12v8q-6 5-12 0z" fill="{skin}"/>',
        _hair_behind(int(random.integers(4)), hair),
        f'<ellipse cx="32" cy="30" rx="{width}" ry="15.5" fill="{skin}"/>',
        _hair_in_front(int(random.integers(5)), hair),
        '<circle cx="27" cy="30" r="1.5" fill="#222"/><circle cx="37" cy="30" r="1.5" fill="#222"/>',
        f'<path d="M28 38q4 {round(float(random.uniform(1.5, 4)), 1)} 8 0" fill="none" stroke="#222" stroke-width="1.4" stroke-linecap="round"/>',
    ]
    if random.random() < 0.25:
        parts.append(
            '<g fill="none" stroke="#333" stroke-width="1.2"><circle cx="27" cy="30" r="4"/><circle cx="37" cy="30" r="4"/><path d="M31 30h2"/></g>'
        )
    if random.random() < 0.22:
        parts.append(f'<path d="M21 35q3 13 11 12q8 1 11-12q-4 5-11 4q-7 1-11-4z" fill="{hair}" opacity=".85"/>')
    return f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 64 64">{"".join(parts)}</svg>'


def _hair_behind(style: int, hair: str) -> str:
    return (
        f'<path d="M17 30c0-20 30-20 30 0v16H17z" fill="{hair}"/>',
        "",
        f'<path d="M18 28c0-17 28-17 28 0v8H18z" fill="{hair}"/>',
        f'<circle cx="32" cy="10" r="6" fill="{hair}"/>',
    )[style]


def _hair_in_front(style: int, hair: str) -> str:
    return (
        f'<path d="M18 28c0-18 28-18 28 0q-4-8-14-8t-14 8z" fill="{hair}"/>',
        f'<path d="M18 29c-1-19 29-20 28-1q-8-3-12-9q-5 8-16 10z" fill="{hair}"/>',
        f'<path d="M20 22q12-14 24 0q-12-5-24 0z" fill="{hair}"/>',
        '<path d="M17 24q15-12 30 0v-3c-1-14-29-14-30 0z" fill="#e0a030"/><rect x="15" y="22" width="34" height="3" rx="1.5" fill="#c98a1c"/>',
        "",
    )[style]
