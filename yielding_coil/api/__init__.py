"""Routes and schemas: in, compute, out."""
