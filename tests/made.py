"""Designs made without web or database: from the JSON that a design is kept as to values of the core."""

from yielding_coil import data
from yielding_coil.documents.design import DesignContent


def design_of(content):
    """A design on a resistor for the core."""
    read = DesignContent.model_validate(content)
    return read.to_core(read.core_antenna())


def report_of(content, key="unun", power_w=100.0, **more):
    """Everything about one wound thing of a design."""
    design = design_of(content)
    task = design.winding_task(power_w, data.MODE_DUTY, boxes=list(data.boxes().values()), **more)
    return design.wound(key).report(task)


def said(told):
    """Findings by their code."""
    return {f.code: f.values for f in told.findings}
