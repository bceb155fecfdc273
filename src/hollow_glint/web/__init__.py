"""The face towards the browser: a Flask application, one blueprint per step of the job, and the live bench's stream.

`app.create_app` puts it together; `contract` holds the pydantic models that are the contract with the front end;
`guard` keeps strangers out; `problems` turns every error into a sentence; `live` runs benches.
"""
