import { route } from '@/server/http/route';
import { createLesson, LessonInput } from '@/server/lessons/lessons';

export const POST = route({ body: LessonInput }, ({ body }) => createLesson(body));
