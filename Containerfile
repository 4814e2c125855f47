# Naveta in a container: built from the source beside it, run by a user without rights, everything it keeps in /data.
FROM node:20-bookworm AS web
WORKDIR /naveta
RUN apt-get update -qq && apt-get install -y -qq --no-install-recommends make python3.11-venv && rm -rf /var/lib/apt/lists/*
COPY . .
RUN make setup web/dist/packed

FROM python:3.11-slim-bookworm
WORKDIR /naveta
COPY requirements.txt ./
RUN pip install --no-cache-dir -r requirements.txt "psycopg[binary]"
COPY core core
RUN pip install --no-cache-dir --no-deps ./core
COPY server server
COPY --from=web /naveta/web/dist web/dist
RUN useradd --system --home /data naveta && mkdir /data && chown naveta /data
USER naveta
ENV NAVETA_DATA=/data NAVETA_HOST=0.0.0.0
VOLUME /data
EXPOSE 8000
CMD ["sh", "-c", "python server/manage.py migrate -v 0 && cd server && exec gunicorn config.wsgi:application --bind 0.0.0.0:8000 --workers 2 --threads 4"]
