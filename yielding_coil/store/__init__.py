"""What is kept: tables, queries, migrations, and the private database server."""
