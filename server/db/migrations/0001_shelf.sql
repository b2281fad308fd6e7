CREATE TABLE "shelf" (
	"id" integer PRIMARY KEY NOT NULL,
	"revision" integer NOT NULL,
	"items" text NOT NULL,
	"saved_at" timestamp with time zone DEFAULT now() NOT NULL
);
