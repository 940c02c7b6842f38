CREATE TABLE `facts` (
	`name` text PRIMARY KEY NOT NULL,
	`value` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `parts` (
	`project_id` text NOT NULL,
	`pattern_id` text NOT NULL,
	`track_id` text NOT NULL,
	`length` integer NOT NULL,
	`grid` text NOT NULL,
	`notes` text NOT NULL,
	`chain` text NOT NULL,
	PRIMARY KEY(`project_id`, `pattern_id`, `track_id`),
	FOREIGN KEY (`project_id`,`pattern_id`) REFERENCES `patterns`(`project_id`,`id`) ON UPDATE no action ON DELETE cascade,
	FOREIGN KEY (`project_id`,`track_id`) REFERENCES `tracks`(`project_id`,`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `patterns` (
	`project_id` text NOT NULL,
	`id` text NOT NULL,
	`position` integer NOT NULL,
	`name` text NOT NULL,
	`bars` integer NOT NULL,
	PRIMARY KEY(`project_id`, `id`),
	FOREIGN KEY (`project_id`) REFERENCES `projects`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `projects` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`tempo` real NOT NULL,
	`metre_beats` integer NOT NULL,
	`metre_unit` integer NOT NULL,
	`key_root` integer NOT NULL,
	`key_scale` text NOT NULL,
	`song` text NOT NULL,
	`revision` integer DEFAULT 1 NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`deleted_at` integer
);
--> statement-breakpoint
CREATE INDEX `projects_updated` ON `projects` (`updated_at`);--> statement-breakpoint
CREATE TABLE `tracks` (
	`project_id` text NOT NULL,
	`id` text NOT NULL,
	`position` integer NOT NULL,
	`kind` text NOT NULL,
	`name` text NOT NULL,
	`sound` text NOT NULL,
	`level` real NOT NULL,
	`pan` real NOT NULL,
	`mute` integer NOT NULL,
	`solo` integer NOT NULL,
	`lanes` text NOT NULL,
	PRIMARY KEY(`project_id`, `id`),
	FOREIGN KEY (`project_id`) REFERENCES `projects`(`id`) ON UPDATE no action ON DELETE cascade
);
