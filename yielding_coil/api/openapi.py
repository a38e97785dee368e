"""Print the OpenAPI document, from which the page's typed client is made."""

import json

from sqlalchemy import create_engine

from yielding_coil.api.app import create_app

if __name__ == "__main__":
    print(json.dumps(create_app(create_engine("postgresql+psycopg://")).openapi(), ensure_ascii=False, indent=1))
