CREATE TABLE `saves` (
	`project_id` text NOT NULL,
	`revision` integer NOT NULL,
	`stamp` text NOT NULL,
	PRIMARY KEY(`project_id`, `revision`),
	FOREIGN KEY (`project_id`) REFERENCES `projects`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
ALTER TABLE `projects` ADD `stamp` text DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `projects` ADD `summary` text;--> statement-breakpoint
ALTER TABLE `projects` ADD `summary_revision` integer;