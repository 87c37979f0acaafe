"""Bringing files of records in, as the screens do."""

from thistlequartz.server.jobs import tasks


def bring(caller, at, content, name="things.csv"):
    body = content if isinstance(content, bytes) else content.encode()
    return caller.send("POST", f"{at}/record-files?name={name}", body)


def brought(caller, at, content, name="things.csv", **plan):
    answer = bring(caller, at, content, name)
    assert answer.status_code == 201, answer.content
    file = answer.json()
    if plan:
        where = f"{at}/record-files/{file['id']}/plan"
        answer = caller.send("PUT", where, {**file["plan"], **plan})
        assert answer.status_code == 200, answer.content
    return answer.json()


def run(caller, at, file, *, dry=False):
    answer = caller.post(f"{at}/record-files/{file['id']}/run", {"dry": dry})
    assert answer.status_code == 202, answer.content
    tasks.work.call(answer.json()["job"]["id"])
    return caller.get(f"{at}/record-files/{file['id']}").json()


def came(caller, at, file, **how):
    done = run(caller, at, file, **how)
    assert done["job"]["state"] == "done", done
    return {key: count for key, count in done["came"].items() if count and key != "dry"}
